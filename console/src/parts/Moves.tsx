import { Plus, X } from "lucide-react";
import type { Move } from "../api/triage";

interface Props {
  moves: Move[];
  said?: (m: Move) => string | undefined;
  onChange: (moves: Move[]) => void;
}

/** What moves, a row each, to be corrected: package, from version, to version. */
export function Moves({ moves, said, onChange }: Props) {
  const set = (at: number, change: Partial<Move>) =>
    onChange(moves.map((m, i) => (i === at ? { ...m, ...change } : m)));
  const field = "w-full rounded border border-line bg-sheet px-2 py-0.5";
  return (
    <div className="space-y-1">
      {moves.map((m, i) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: a row has no other name while it is typed
          key={i}
          className="grid grid-cols-[minmax(0,1fr)_5rem_5rem_1.75rem] items-center gap-2 sm:grid-cols-[minmax(0,1fr)_7rem_7rem_1.75rem_minmax(0,10rem)]"
        >
          <input
            aria-label="Package or toolchain"
            placeholder="package or toolchain"
            value={m.package}
            onChange={(e) => set(i, { package: e.target.value })}
            className={field}
          />
          <input
            aria-label="From version"
            placeholder="from"
            value={m.from}
            onChange={(e) => set(i, { from: e.target.value })}
            className={field}
          />
          <input
            aria-label="To version"
            placeholder="to"
            value={m.to}
            onChange={(e) => set(i, { to: e.target.value })}
            className={field}
          />
          <button
            type="button"
            aria-label={`Remove ${m.package || "this row"}`}
            onClick={() => onChange(moves.filter((_, n) => n !== i))}
            className="moves rounded p-1 text-soft hover:bg-wash hover:text-ink"
          >
            <X className="size-3.5" aria-hidden="true" />
          </button>
          <span className="hidden truncate text-xs text-soft sm:block">{said?.(m) && `read from ${said(m)}`}</span>
        </div>
      ))}
      <button
        type="button"
        onClick={() => onChange([...moves, { package: "", from: "", to: "" }])}
        className="inline-flex items-center gap-1 text-copper hover:underline"
      >
        <Plus className="size-3.5" aria-hidden="true" />
        {moves.length === 0 ? "Say what moves" : "Something else moves too"}
      </button>
    </div>
  );
}
