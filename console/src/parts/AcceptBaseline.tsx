import { useAcceptBaseline } from "../api/acts";
import type { Run } from "../api/client";
import { Confirm } from "./Confirm";

/** Takes the latest runs as the baseline, after a word of warning. */
export function AcceptBaseline({ upgrade, runs = [] }: { upgrade: number; runs?: Run[] }) {
  const accept = useAcceptBaseline(upgrade);
  const now = runs.filter((r) => r.baseline).map((r) => `#${r.number}`);
  return (
    <>
      <span className="text-soft">
        {now.length > 0 ? `Baseline: ${now.reverse().join(", ")}` : "No baseline is accepted yet."}
      </span>
      <Confirm
        ask={now.length > 0 ? "Take in a new baseline" : "Accept the baseline"}
        title="Measure against the latest run of every check?"
        text={
          now.length > 0
            ? "What fails or warns in it is known from then on, also what the upgrade broke. The act is recorded with your name; the earlier baseline is replaced."
            : "What fails or warns in it is known from then on and never mixed with what the upgrade breaks."
        }
        act={() => accept.mutate()}
      />
      {accept.error && (
        <span role="alert" className="text-alarm">
          {accept.error.message}
        </span>
      )}
    </>
  );
}
