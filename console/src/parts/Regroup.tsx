import { useState } from "react";
import { useCorrect, useUndoCorrection } from "../api/acts";
import type { Cause, CauseDetail, Correction } from "../api/client";
import { useCauses } from "../api/queries";
import { Heading } from "./basics";

interface Props {
  upgrade: number;
  cause: Cause;
  chosen: string[];
  onDone: () => void;
}

/** Presses the button that splits the chosen symptoms off, where it is shown. */
export function splitChosen() {
  document.querySelector<HTMLButtonElement>('[data-act="split"]')?.click();
}

/** What can be done with chosen symptoms: split them off, move them, pin them. */
export function Regroup({ upgrade, cause, chosen, onDone }: Props) {
  const correct = useCorrect(upgrade);
  const others = useCauses(upgrade).data?.filter((c) => c.id !== cause.id) ?? [];
  const [to, setTo] = useState("");
  if (chosen.length === 0) return null;
  const act = (kind: "split" | "move" | "pin", target: string) =>
    correct.mutate([{ kind, cause: target, symptoms: chosen }], { onSuccess: onDone });
  const button = "moves rounded border border-line px-2 py-0.5 hover:border-copper disabled:opacity-50";
  return (
    <fieldset className="no-print sticky top-0 z-10 mb-2 flex flex-wrap items-center gap-2 border border-copper bg-sheet px-2 py-1.5">
      <legend className="sr-only">The chosen symptoms</legend>
      <span>{chosen.length} chosen</span>
      <button
        type="button"
        className={button}
        data-act="split"
        disabled={correct.isPending}
        onClick={() => act("split", cause.id)}
      >
        Split off
      </button>
      <select
        aria-label="Move to which cause"
        value={to}
        onChange={(e) => setTo(e.target.value)}
        className="max-w-56 rounded border border-line bg-paper px-1 py-0.5"
      >
        <option value="">move to…</option>
        {others.map((c) => (
          <option key={c.id} value={c.id}>
            {c.id} {c.title}
          </option>
        ))}
      </select>
      {to && (
        <button type="button" className={button} data-act="move" onClick={() => act("move", to)}>
          Move
        </button>
      )}
      <button type="button" className={button} data-act="pin" onClick={() => act("pin", cause.id)}>
        Pin here
      </button>
      <button type="button" className="text-soft hover:text-ink" onClick={onDone}>
        Clear the selection
      </button>
      {correct.error && (
        <span role="alert" className="text-xs text-alarm">
          {correct.error.message}
        </span>
      )}
    </fieldset>
  );
}

/** What people said of where the symptoms of a cause belong, each undone as easily. */
export function Corrections({ upgrade, detail }: { upgrade: number; detail: CauseDetail }) {
  const undo = useUndoCorrection(upgrade);
  if (detail.corrections.length === 0) return null;
  return (
    <div data-list="corrections">
      <Heading>Corrected by hand</Heading>
      <ul className="space-y-1">
        {detail.corrections.map((c) => (
          <li key={c.id} className={c.undone ? "text-soft line-through" : ""}>
            {inWords(c)}
            {c.reason && `, ${c.reason}`} <span className="text-xs text-soft">{c.author}</span>{" "}
            {!c.undone && (
              <button
                type="button"
                data-act="undo"
                disabled={undo.isPending}
                onClick={() => undo.mutate(c.id)}
                className="no-print text-xs text-copper underline underline-offset-2"
              >
                Undo
              </button>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

function inWords(c: Correction) {
  const n = c.symptoms.length === 1 ? "1 symptom" : `${c.symptoms.length} symptoms`;
  switch (c.kind) {
    case "merge":
      return `${c.from} merged into ${c.cause}`;
    case "split":
      return `${n} split off ${c.from} as ${c.cause}`;
    case "pin":
      return `${n} pinned here`;
    default:
      return `${n} moved to ${c.cause}`;
  }
}
