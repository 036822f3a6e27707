import { Check, Circle, CircleDot, Minus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { useChangeRoute } from "../api/acts";
import type { LegRow, Overview } from "../api/client";
import { useRoute } from "../api/queries";
import type { Move } from "../api/triage";
import { Heading } from "./basics";
import { FormEnd } from "./FormEnd";
import { Moves } from "./Moves";

const marks = { done: Check, current: CircleDot, planned: Circle, abandoned: Minus };

/** The legs of the upgrade in order, and those that the notes suggest. */
export function Route({ overview }: { overview: Overview }) {
  const { upgrade, legs, gate } = overview;
  const [asking, setAsking] = useState<"plan" | "next" | "restart" | null>(null);
  const change = useChangeRoute(upgrade.id);
  const proposed = useRoute(upgrade.id, legs.length === 1).data ?? [];
  const planned = legs.some((l) => l.status === "planned");
  const ready = gate.open || gate.reasons.every((r) => r.code === "leg-left");
  return (
    <section>
      <Heading aside="what moves, in which order">Route</Heading>
      <ol className="space-y-2" data-list="legs">
        {legs.map((l) => (
          <Leg key={l.number} upgrade={upgrade.id} leg={l} />
        ))}
      </ol>
      {proposed.length > 1 && (
        <div className="mt-3 text-soft">
          <p>The notes suggest {proposed.length} legs:</p>
          <ol className="ml-5 list-decimal">
            {proposed.map((p) => (
              <li key={JSON.stringify(p.moves)}>
                {p.moves.map((m) => `${m.from} → ${m.to}`).join(", ")}: {p.why}
              </li>
            ))}
          </ol>
        </div>
      )}
      <p className="no-print mt-2 flex gap-4 text-xs">
        {(["plan", "next", "restart"] as const).map((kind) => (
          <button
            key={kind}
            type="button"
            data-route={kind}
            onClick={() => setAsking(asking === kind ? null : kind)}
            className="text-copper underline underline-offset-2"
          >
            {{ plan: "Plan a leg", next: "Start the next leg", restart: "Restart this leg" }[kind]}
          </button>
        ))}
      </p>
      {asking && (
        <LegForm
          key={asking}
          kind={asking}
          planned={planned}
          reasoned={asking === "restart" || (asking === "next" && !ready)}
          from={upgrade.leg.moves}
          busy={change.isPending}
          error={change.error?.message}
          onDone={(moves, reason) =>
            change.mutate({ kind: asking, reason, moves }, { onSuccess: () => setAsking(null) })
          }
          onCancel={() => setAsking(null)}
        />
      )}
    </section>
  );
}

interface LegFormProps {
  kind: "plan" | "next" | "restart";
  planned: boolean;
  reasoned: boolean;
  from: Move[];
  busy: boolean;
  error?: string;
  onDone: (moves: Move[], reason?: string) => void;
  onCancel: () => void;
}

/** Asks what a leg moves: it goes on from where the current one ends. */
function LegForm({ kind, planned, reasoned, from, busy, error, onDone, onCancel }: LegFormProps) {
  const moving = kind === "plan" || (kind === "next" && !planned);
  const [moves, setMoves] = useState<Move[]>(
    moving ? from.map((m) => ({ package: m.package, from: m.to, to: "" })) : [],
  );
  const [reason, setReason] = useState("");
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onDone(
          moves.filter((m) => m.package.trim()),
          reason || undefined,
        );
      }}
      onKeyDown={(e) => e.key === "Escape" && onCancel()}
      className="no-print mt-2 space-y-2 border-l-2 border-copper pl-3"
    >
      {kind === "restart" && <p className="text-xs text-soft">Other versions than before, if any:</p>}
      {(moving || kind === "restart") && <Moves moves={moves} onChange={setMoves} />}
      {reasoned && (
        <label className="block">
          <span className="text-xs text-soft">{kind === "next" ? "Why, while the gate is shut?" : "Why?"}</span>
          <input
            required
            name="reason"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            className="block w-full rounded border border-line bg-sheet px-2 py-1"
          />
        </label>
      )}
      <FormEnd
        act={{ plan: "Plan", next: "Go on", restart: "Restart" }[kind]}
        busy={busy}
        error={error}
        onCancel={onCancel}
      />
    </form>
  );
}

function Leg({ upgrade, leg }: { upgrade: number; leg: LegRow }) {
  const Mark = marks[leg.status];
  return (
    <li className={`flex items-start gap-2 ${leg.status === "current" ? "" : "text-soft"}`}>
      <Mark
        className={`mt-1 size-3.5 shrink-0 ${leg.status === "done" ? "text-calm" : leg.status === "current" ? "text-copper" : ""}`}
        aria-hidden="true"
      />
      <div className="min-w-0">
        <p className="[overflow-wrap:anywhere]">
          {leg.number}. {leg.moves.map((m) => `${m.package} ${m.from} → ${m.to}`).join(", ")}
        </p>
        <p className="text-xs text-soft">
          {leg.status}
          {leg.status !== "planned" && (
            <>
              {" · "}
              <Link to={`/upgrades/${upgrade}/causes?leg=${leg.number}`} className="hover:text-copper">
                {leg.causes} {leg.causes === 1 ? "cause" : "causes"}, {leg.left} left
              </Link>
              {` · ${leg.runs} ${leg.runs === 1 ? "run" : "runs"}`}
            </>
          )}
          {leg.reason && ` · ${leg.reason}`}
        </p>
      </div>
    </li>
  );
}
