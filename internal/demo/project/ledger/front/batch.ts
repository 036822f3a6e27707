import { configure, print, renderLabel, type LabelError, type Printer } from "@orchardworks/binlabel";

export function useRoll(): void {
  configure({ paper: "roll", copies: 1 });
}

export async function batch(printer: Printer, growers: string[]): Promise<number> {
  let printed = 0;
  for (const grower of growers) {
    const label = renderLabel({ grower }, "crate");
    if (label.width > 90) continue;
    printed += await print(printer, label, 1);
  }
  return printed;
}

export async function reprint(printer: Printer, grower: string, times: number): Promise<number> {
  return print(printer, renderLabel({ grower }, "crate"), times);
}

export const failures: LabelError[] = [];
