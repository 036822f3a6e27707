import type { SettledCase } from "../api/client";

/** How a cause was settled in other upgrades. */
export function SeenBefore({ cases }: { cases: SettledCase[] }) {
  return (
    <ul className="space-y-2" data-list="cases">
      {cases.map((c) => (
        <li key={`${c.signature} ${c.decision}`}>
          <span className="font-semibold">{c.decision}</span>
          {c.reason && <>: {c.reason}</>}
          {c.pairs.length > 0 && c.pairs.length <= 4 && (
            <span className="block font-mono text-xs">{c.pairs.map((p) => `${p.from} → ${p.to}`).join(", ")}</span>
          )}
          <span className="block text-xs text-soft">
            {c.package} {c.from && `${c.from} → ${c.to}`}
            {c.upgrade && ` · ${c.upgrade} of ${c.project}`}
            {c.helped > 0 && ` · helped ${c.helped} ${c.helped === 1 ? "time" : "times"} since`}
          </span>
        </li>
      ))}
    </ul>
  );
}
