import { Plus, X } from "lucide-react";
import type { ReactNode } from "react";

interface Column<R> {
  field: keyof R & string;
  label: string;
  placeholder: string;
  code?: boolean;
}

interface Props<R> {
  rows: R[];
  columns: Column<R>[];
  /** The grid's columns: one for each field, one for the button, and one for what stands beside. */
  grid: string;
  empty: R;
  /** What is removed, by the row's first field where it has one. */
  more: string;
  beside?: (row: R) => ReactNode;
  onChange: (rows: R[]) => void;
}

/** Rows of fields to be typed: each can be changed and removed, another one added. */
export function Rows<R extends { [K in keyof R]: string }>({
  rows,
  columns,
  grid,
  empty,
  more,
  beside,
  onChange,
}: Props<R>) {
  const set = (at: number, field: keyof R, value: string) =>
    onChange(rows.map((r, i) => (i === at ? { ...r, [field]: value } : r)));
  return (
    <div className="space-y-1">
      {rows.map((row, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a row has no other name while it is typed
        <div key={i} className={`grid items-center gap-2 ${grid}`}>
          {columns.map((c) => (
            <input
              key={c.field}
              aria-label={c.label}
              placeholder={c.placeholder}
              value={row[c.field]}
              onChange={(e) => set(i, c.field, e.target.value)}
              className={`w-full rounded border border-line bg-sheet px-2 py-0.5 ${c.code ? "font-mono text-xs" : ""}`}
            />
          ))}
          <button
            type="button"
            aria-label={`Remove ${(columns[0] && row[columns[0].field]) || "this row"}`}
            onClick={() => onChange(rows.filter((_, n) => n !== i))}
            className="moves rounded p-1 text-soft hover:bg-wash hover:text-ink"
          >
            <X className="size-3.5" aria-hidden="true" />
          </button>
          {beside?.(row)}
        </div>
      ))}
      <button
        type="button"
        onClick={() => onChange([...rows, empty])}
        className="inline-flex items-center gap-1 text-copper hover:underline"
      >
        <Plus className="size-3.5" aria-hidden="true" />
        {more}
      </button>
    </div>
  );
}
