import { encode, check } from "@orchardworks/binlabel/barcode";
import { renderLabel, print, type Printer } from "@orchardworks/binlabel";

export async function pallet(printer: Printer, number: number): Promise<number> {
  const label = renderLabel({ number: String(number), code: encode(String(number)) }, "pallet");
  const tall = label.height > label.width;
  return print(printer, label, tall ? 2 : 1);
}

export const digits = (text: string) => check(text, (symbol) => symbol >= "0" && symbol <= "9");
