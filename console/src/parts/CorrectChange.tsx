import { type FormEvent, useState } from "react";
import { type ChangeWord, useSayOfChange } from "../api/acts";
import type { Change } from "../api/client";

/** The kinds of a change. */
export const kinds = [
  "behaviour",
  "default",
  "removed",
  "renamed",
  "moved",
  "signature",
  "deprecated",
  "requirement",
  "added",
  "fixed",
] as const;

interface Props {
  upgrade: number;
  change: Change;
  onDone: () => void;
}

/** Corrects the kind of a change and its pairs of names; empty pairs take an earlier correction back. */
export function CorrectChange({ upgrade, change, onDone }: Props) {
  const say = useSayOfChange(upgrade, change.id);
  const [kind, setKind] = useState(change.kind);
  const [pairs, setPairs] = useState(() => [...change.renames, { from: "", to: "" }]);
  const [reason, setReason] = useState("");
  const set = (n: number, side: "from" | "to", value: string) => {
    const next = pairs.map((p, i) => (i === n ? { ...p, [side]: value } : p));
    if (next.at(-1)?.from) next.push({ from: "", to: "" });
    setPairs(next);
  };
  const submit = (e: FormEvent) => {
    e.preventDefault();
    const word: ChangeWord = { reason };
    if (kind !== change.kind) word.kind = kind as ChangeWord["kind"];
    const renames = pairs.filter((p) => p.from.trim() && p.to.trim());
    if (JSON.stringify(renames) !== JSON.stringify(change.renames)) word.renames = renames;
    say.mutate(word, { onSuccess: onDone });
  };
  const field = "min-w-0 flex-1 rounded border border-line bg-sheet px-2 py-0.5";
  return (
    <form
      onSubmit={submit}
      onKeyDown={(e) => e.key === "Escape" && onDone()}
      className="space-y-2 text-sm"
      data-correct={change.id}
    >
      <label className="flex items-center gap-2">
        <span className="w-20 text-soft">Kind</span>
        <select name="kind" value={kind} onChange={(e) => setKind(e.target.value)} className={field}>
          {kinds.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </select>
      </label>
      {pairs.map((p, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: pairs have no other name while they are typed
        <div key={n} className="flex items-center gap-2 font-mono text-xs">
          <input
            value={p.from}
            onChange={(e) => set(n, "from", e.target.value)}
            placeholder="old name"
            aria-label="Old name"
            className={field}
          />
          <span className="text-copper">→</span>
          <input
            value={p.to}
            onChange={(e) => set(n, "to", e.target.value)}
            placeholder="new name"
            aria-label="New name"
            className={field}
          />
        </div>
      ))}
      <div className="flex flex-wrap items-center gap-2">
        <input
          required
          name="reason"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          placeholder="Why?"
          aria-label="Why?"
          className={`${field} min-w-40`}
        />
        <button type="submit" disabled={say.isPending} className="rounded bg-copper px-3 py-0.5 text-paper">
          Correct
        </button>
        {say.error && (
          <span role="alert" className="text-xs text-alarm">
            {say.error.message}
          </span>
        )}
      </div>
    </form>
  );
}
