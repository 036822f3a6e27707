import type { ReactNode } from "react";
import { Wide } from "./basics";

/** A table with columns of words and, right of them, of numbers; a wide one scrolls within itself on a narrow window. */
export function Table({
  words,
  numbers,
  wide,
  children,
}: {
  words: string[];
  numbers: string[];
  wide?: boolean;
  children: ReactNode;
}) {
  const table = (
    <table className={`w-full ${wide ? "min-w-[44rem]" : ""}`}>
      <thead className="text-left text-xs text-soft">
        <tr>
          {words.map((name) => (
            <th key={name} className="py-1 font-normal">
              {name}
            </th>
          ))}
          {numbers.map((name) => (
            <th key={name} className="py-1 text-right font-normal">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
  return wide ? <Wide>{table}</Wide> : table;
}
