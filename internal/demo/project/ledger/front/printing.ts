import { configure, listPrinters, print, type Label, type LabelError, type Printer } from "@orchardworks/binlabel";

configure({ paper: "thermal", darkness: 3 });

export function firstReady(): Printer | undefined {
  return listPrinters().find((printer) => printer.ready);
}

export async function printTwice(printer: Printer, label: Label): Promise<number> {
  return print(printer, label, 2);
}

export async function printFor(printer: Printer, label: Label, crates: number): Promise<number> {
  return print(printer, label, crates);
}

export function explain(error: LabelError): string {
  return `${error.code}: ${error.reason}`;
}
