import { renderLabel, type Label } from "@orchardworks/binlabel";

export function crateLabel(grower: string, kilos: number): Label {
  return renderLabel({ grower, kilos: kilos.toFixed(1) }, "crate");
}

export function palletLabel(number: number): Label {
  return renderLabel({ number: String(number) }, "pallet");
}

export function area(label: Label): number {
  return label.width * label.height;
}
