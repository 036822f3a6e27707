import { check, encode } from "@orchardworks/binlabel/barcode";

export function code(grower: number, crate: number): string {
  return encode(`${grower}-${crate}`);
}

export function plain(text: string): boolean {
  return check(text, (symbol) => symbol >= " " && symbol <= "~");
}
