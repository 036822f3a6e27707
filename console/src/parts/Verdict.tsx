import { DoorClosed, DoorOpen } from "lucide-react";
import { Link } from "react-router";
import type { Overview } from "../api/client";

/** The gate in a sentence, with its reasons. */
export function Verdict({ overview }: { overview: Overview }) {
  const { gate, upgrade } = overview;
  if (gate.open) {
    const decided = overview.causes.filter((c) => !c.known && c.status !== "cleared").length;
    return (
      <div className="flex items-start gap-3 border-l-2 border-calm pl-4">
        <DoorOpen className="mt-0.5 size-5 text-calm" aria-hidden="true" />
        <p>
          <span className="font-semibold text-calm">The gate is open.</span> Everything that passed in the baseline
          passes again{decided > 0 && `; ${decided} ${decided === 1 ? "cause is" : "causes are"} left on purpose`}.
        </p>
      </div>
    );
  }
  const first = gate.reasons.filter((r) => !r.cause);
  const rest = gate.reasons.filter((r) => r.cause);
  return (
    <div className="flex items-start gap-3 border-l-2 border-alarm pl-4">
      <DoorClosed className="mt-0.5 size-5 text-alarm" aria-hidden="true" />
      <div className="min-w-0">
        <p>
          <span className="font-semibold text-alarm">The gate is shut</span>
          {rest.length > 0 && (
            <>
              : {rest.length} {rest.length === 1 ? "cause keeps" : "causes keep"} it so.
            </>
          )}
        </p>
        <ul className="text-soft">
          {first.map((r) => (
            <li key={r.text}>{r.text}</li>
          ))}
        </ul>
        {rest.length > 0 && (
          <details>
            <summary className="cursor-pointer text-soft">each reason</summary>
            <ul className="text-soft">
              {rest.map((r) => (
                <li key={r.text}>
                  <Link to={`/upgrades/${upgrade.id}/causes/${r.cause}`} className="hover:text-copper">
                    {r.text}
                  </Link>
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
    </div>
  );
}
