import { type DecisionKind, useDecideAll } from "../api/acts";
import { DecisionForm, decisions } from "./DecisionBar";

interface Props {
  upgrade: number;
  chosen: string[];
  kind: DecisionKind | null;
  setKind: (kind: DecisionKind | null) => void;
  onMerge: () => void;
  merging: boolean;
  problem?: string; // with merging
  seen: number; // the latest decision that is shown: a later one is somebody else's
  onDone: () => void;
}

const named = 12;

/** One decision for the chosen causes, or one cause of them. */
export function BulkDecision({ upgrade, chosen, kind, setKind, onMerge, merging, problem, seen, onDone }: Props) {
  const decide = useDecideAll(upgrade);
  const asked = decisions.find((d) => d.kind === kind);
  return (
    <fieldset className="no-print mb-3 border border-copper bg-sheet px-2 py-1.5">
      <legend className="sr-only">The chosen causes</legend>
      <div className="flex flex-wrap items-center gap-2">
        <span>
          {chosen.length} chosen:{" "}
          <span className="font-mono text-xs">
            {chosen.slice(0, named).join(" ")}
            {chosen.length > named && " …"}
          </span>
        </span>
        {decisions.map((d) => (
          <button
            key={d.kind}
            type="button"
            data-bulk={d.kind}
            aria-pressed={d.kind === kind}
            onClick={() => setKind(d.kind === kind ? null : d.kind)}
            className={`moves rounded border px-2 py-0.5 text-sm ${d.kind === kind ? "border-copper text-copper" : "border-line hover:border-copper"}`}
          >
            {d.name}
          </button>
        ))}
        {chosen.length > 1 && (
          <button
            type="button"
            data-bulk="merge"
            onClick={onMerge}
            disabled={merging}
            className="moves rounded border border-line px-2 py-0.5 text-sm hover:border-copper"
          >
            Merge
          </button>
        )}
        <button type="button" onClick={onDone} className="text-soft hover:text-ink">
          Clear the selection
        </button>
        {problem && (
          <span role="alert" className="text-xs text-alarm">
            {problem}
          </span>
        )}
      </div>
      {asked && (
        <div className="max-w-xl">
          <DecisionForm
            key={asked.kind}
            {...asked}
            busy={decide.isPending}
            error={decide.error?.message}
            onDone={(reason, due) =>
              decide.mutate({ causes: chosen, kind: asked.kind, reason, due, seen }, { onSuccess: onDone })
            }
            onCancel={() => setKind(null)}
          />
        </div>
      )}
    </fieldset>
  );
}
