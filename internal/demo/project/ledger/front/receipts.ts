import { print, renderLabel, type Label, type Printer } from "@orchardworks/binlabel";

export function receipt(lines: string[]): Label {
  const label = renderLabel({ lines: lines.join("\n") }, "receipt");
  return { ...label, height: lines.length * 6 };
}

export async function both(printer: Printer, label: Label): Promise<number> {
  return (await print(printer, label, 1)) + (await print(printer, receipt([label.text]), 1));
}

export function length(labels: Label[]): number {
  return labels.reduce((sum, label) => sum + label.height, 0);
}
