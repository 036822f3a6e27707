import { renderLabel, type Label } from "@orchardworks/binlabel";

export interface Preview { html: string; ratio: number }

export function preview(fields: Record<string, string>): Preview {
  const label = renderLabel(fields, "crate");
  return { html: `<b>${label.text}</b>`, ratio: label.width / label.height };
}

export function fits(label: Label, room: number): boolean {
  return label.width <= room && label.height <= room * 2;
}

export function styles(label: Label): string {
  return `width: ${label.width}mm; height: ${label.height}mm`;
}
