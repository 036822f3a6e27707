import { Check, Circle, CircleDot, Minus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { LegRow, Overview } from "../api/client";
import { useChangeRoute, useRoute } from "../api/queries";
import { Ask } from "./Ask";
import { Heading } from "./basics";

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
            {{ plan: "Plan a leg", next: "Go on to the next", restart: "Begin this one anew" }[kind]}
          </button>
        ))}
      </p>
      {asking && (
        <Ask
          key={asking}
          fields={[
            ...(asking === "plan" || (asking === "next" && !planned)
              ? [{ name: "move", label: "Package from..to, as in jar=5.0.0..6.0.0" }]
              : []),
            ...(asking === "restart" ? [{ name: "move", label: "Other versions, if any", optional: true }] : []),
            ...(asking === "restart" || (asking === "next" && !ready)
              ? [{ name: "reason", label: asking === "next" ? "Why, while the gate is shut?" : "Why?" }]
              : []),
          ]}
          act={{ plan: "Plan", next: "Go on", restart: "Begin anew" }[asking]}
          busy={change.isPending}
          error={change.error?.message}
          onDone={(v) =>
            change.mutate(
              { kind: asking, reason: v.reason, moves: parse(v.move) },
              { onSuccess: () => setAsking(null) },
            )
          }
          onCancel={() => setAsking(null)}
        />
      )}
    </section>
  );
}

function parse(text: string | undefined) {
  const found = text?.match(/^(.+)=(.*)\.\.(.*)$/);
  return found ? [{ package: found[1] ?? "", from: found[2] ?? "", to: found[3] ?? "" }] : [];
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
              {` · ${leg.runs} runs`}
            </>
          )}
          {leg.reason && ` · ${leg.reason}`}
        </p>
      </div>
    </li>
  );
}
