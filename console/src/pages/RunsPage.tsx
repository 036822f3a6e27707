import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Run } from "../api/client";
import { useLive } from "../api/live";
import { useHead, useRuns } from "../api/queries";
import { AcceptBaseline } from "../parts/AcceptBaseline";
import { Skeleton, Trouble, Wide } from "../parts/basics";
import { Ladder } from "../parts/CheckTable";
import { Offer } from "../parts/Offer";
import { RecordRun } from "../parts/RecordRun";

/** Every run, the latest first; two of them can be compared. */
export function RunsPage() {
  const upgrade = Number(useParams().upgrade);
  const head = useHead(upgrade);
  const runs = useRuns(upgrade);
  useLive(upgrade);
  const error = head.error ?? runs.error;
  if (error) return <Trouble error={error} retry={() => Promise.all([head.refetch(), runs.refetch()])} />;
  if (!head.data || !runs.data) return <Skeleton rows={10} />;
  return (
    <>
      <title>{`Runs of ${head.data.upgrade.name} · Unicausa`}</title>
      <List upgrade={upgrade} runs={runs.data} />
    </>
  );
}

function List({ upgrade, runs }: { upgrade: number; runs: Run[] }) {
  const [picked, setPicked] = useState<number[]>([]);
  const [all, setAll] = useState(false);
  const shown = all ? runs : runs.slice(0, most);
  const navigate = useNavigate();
  const pick = (n: number) =>
    setPicked((list) => (list.includes(n) ? list.filter((p) => p !== n) : [...list.slice(-1), n]));
  const [a, b] = [...picked].sort((x, y) => x - y);
  if (runs.length === 0) {
    return (
      <div className="space-y-3">
        <p className="text-soft">No run yet. Record every check on the old version first, here or in a terminal:</p>
        <RecordRun upgrade={upgrade} />
      </div>
    );
  }
  return (
    <>
      <div className="no-print mb-2 flex flex-wrap items-center gap-3">
        <button
          type="button"
          disabled={!a || !b}
          onClick={() => navigate(`/upgrades/${upgrade}/compare/${a}/${b}`)}
          className="moves rounded border border-line px-2 py-0.5 enabled:border-copper enabled:text-copper disabled:text-soft"
        >
          {a && b ? `Compare #${a} with #${b}` : "Pick two runs to compare"}
        </button>
        <AcceptBaseline upgrade={upgrade} runs={runs} />
      </div>
      <div className="mb-3">
        <Offer act="Record a run from files">{(close) => <RecordRun upgrade={upgrade} onDone={close} />}</Offer>
      </div>
      <Wide>
        <table className="w-full">
          <thead className="text-left text-xs text-soft">
            <tr>
              <th className="w-8 py-1 font-normal">
                <span className="sr-only">pick</span>
              </th>
              <th className="pr-4 text-right font-normal">run</th>
              <th className="font-normal">check</th>
              <th className="font-normal">frontier</th>
              <th className="pr-6 text-right font-normal">symptoms</th>
              <th className="font-normal">what changed</th>
              <th className="font-normal">commit</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((r, i) => (
              <Row
                key={r.number}
                upgrade={upgrade}
                run={r}
                picked={picked.includes(r.number)}
                pick={pick}
                commit={r.facts.commit !== runs[i - 1]?.facts.commit}
              />
            ))}
          </tbody>
        </table>
      </Wide>
      {shown.length < runs.length && (
        <button type="button" onClick={() => setAll(true)} className="mt-2 text-copper underline underline-offset-2">
          All {runs.length} runs
        </button>
      )}
    </>
  );
}

/** How many runs are listed at first. */
const most = 60;

interface RowProps {
  upgrade: number;
  run: Run;
  picked: boolean;
  pick: (n: number) => void;
  commit: boolean; // another one than the row above
}

function Row({ upgrade, run, picked, pick, commit }: RowProps) {
  const { facts } = run;
  return (
    <tr className={`h-8 border-t ${commit ? "border-line" : "border-transparent"} ${picked ? "bg-wash" : ""}`}>
      <td className="pl-1">
        <input
          type="checkbox"
          checked={picked}
          onChange={() => pick(run.number)}
          aria-label={`Pick run ${run.number}`}
          className="accent-(--copper)"
        />
      </td>
      <td className="pr-4 text-right font-mono text-xs">
        <Link
          to={`/upgrades/${upgrade}/runs/${run.number}`}
          className="text-copper hover:underline"
          data-run={run.number}
        >
          #{run.number}
        </Link>
      </td>
      <td className="pr-4">{facts.check}</td>
      <td className="pr-4">
        {run.status === "processed" ? (
          <Ladder frontier={run.frontier} passes={(facts.exit ?? 0) === 0} />
        ) : (
          <span className="text-soft">
            {run.status === "stored" ? "being processed" : run.problem || "interrupted"}
          </span>
        )}
      </td>
      <td className="pr-6 text-right">{run.symptoms}</td>
      <td className="pr-4">
        <Changed run={run} />
        {run.notices.map((n) => (
          <span key={n} className="block text-xs text-amber">
            {n}
          </span>
        ))}
      </td>
      <td className="max-w-80 truncate text-xs text-soft" title={facts.subject}>
        {commit && (
          <>
            <span className="font-mono">{facts.commit?.slice(0, 7)}</span> {facts.subject}
            {facts.dirty && <span className="text-amber"> with uncommitted changes</span>}
          </>
        )}
      </td>
    </tr>
  );
}

function Changed({ run }: { run: Run }) {
  if (run.baseline) return <span className="text-slate">baseline</span>;
  const d = run.delta;
  if (!d) return null;
  const parts = [
    d.new > 0 && `${d.new} new`,
    d.gone > 0 && `${d.gone} gone`,
    d.uncovered > 0 && `${d.uncovered} uncovered`,
    d.introduced > 0 && `${d.introduced} introduced`,
    d.returned > 0 && `${d.returned} returned`,
    d.proved.length > 0 && `proves ${d.proved.join(" ")}`,
    d.disproved.length > 0 && `disproves ${d.disproved.join(" ")}`,
    ...(d.redrawn ?? []).map((r) => r.text),
  ].filter(Boolean);
  return parts.length > 0 ? parts.join(", ") : <span className="text-soft">nothing</span>;
}
