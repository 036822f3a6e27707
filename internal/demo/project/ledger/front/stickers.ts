import { configure, print, renderLabel, type Label, type Printer } from "@orchardworks/binlabel";

const sheet = { columns: 3, rows: 8 };

export function sticker(name: string): Label {
  return renderLabel({ name }, "sticker");
}

export function perSheet(label: Label): number {
  return Math.floor((sheet.columns * 70) / label.width) * Math.floor((sheet.rows * 37) / label.height);
}

export async function printSheet(printer: Printer, names: string[]): Promise<void> {
  configure({ paper: "sheet" });
  for (const name of names) await print(printer, sticker(name), 1);
}

export function widest(labels: Label[]): number {
  return Math.max(...labels.map((label) => label.width));
}
