import { Link, useParams, useSearchParams } from "react-router";
import type { Compared, Comparison, Run } from "../api/client";
import { useComparison, useHead } from "../api/queries";
import { Skeleton, Trouble } from "../parts/basics";

const views = [
  ["changed", "new and gone"],
  ["new", "new"],
  ["absent", "gone"],
  ["all", "all"],
] as const;

/** Two runs side by side: what one has and the other has not. */
export function ComparePage() {
  const params = useParams();
  const upgrade = Number(params.upgrade);
  const head = useHead(upgrade);
  const comparison = useComparison(upgrade, Number(params.earlier), Number(params.later));
  const error = head.error ?? comparison.error;
  if (error) return <Trouble error={error} retry={() => comparison.refetch()} />;
  if (!head.data || !comparison.data) return <Skeleton rows={8} />;
  return (
    <>
      <title>{`#${params.earlier} and #${params.later} · Unicausa`}</title>
      <Shown upgrade={upgrade} comparison={comparison.data} />
    </>
  );
}

function Shown({ upgrade, comparison }: { upgrade: number; comparison: Comparison }) {
  const [search, setSearch] = useSearchParams();
  const view = search.get("show") ?? "changed";
  const { symptoms, lost, notices } = comparison;
  const count = (state: string) => symptoms.filter((s) => s.state === state).length;
  const same = count("unchanged") + count("updated");
  const shown = symptoms.filter(
    (s) => view === "all" || s.state === view || (view === "changed" && (s.state === "new" || s.state === "absent")),
  );
  return (
    <>
      <div className="grid gap-6 sm:grid-cols-2">
        <Side upgrade={upgrade} run={comparison.earlier} name="Earlier" />
        <Side upgrade={upgrade} run={comparison.later} name="Later" />
      </div>
      {notices.length > 0 && (
        <ul className="mt-4 text-amber">
          {notices.map((n) => (
            <li key={n}>{n}</li>
          ))}
        </ul>
      )}
      <div className="mb-2 mt-6 flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-semibold">
          {count("new")} new, {count("absent")} gone, {same} the same
        </h2>
        <div className="no-print flex gap-3" role="tablist" aria-label="What to list">
          {views.map(([key, name]) => (
            <button
              key={key}
              type="button"
              role="tab"
              aria-selected={view === key}
              onClick={() => setSearch(key === "changed" ? {} : { show: key }, { replace: true })}
              className={`moves border-b-2 ${view === key ? "border-copper" : "border-transparent text-soft hover:text-copper"}`}
            >
              {name}
            </button>
          ))}
        </div>
      </div>
      {shown.length === 0 && lost.length === 0 && (
        <p className="text-soft">Nothing to list: the two runs say the same.</p>
      )}
      <table className="w-full">
        {shown.length > 0 && (
          <thead className="text-xs text-soft">
            <tr>
              <td colSpan={2} />
              <th className="text-right font-normal">earlier</th>
              <th className="text-right font-normal">later</th>
            </tr>
          </thead>
        )}
        <tbody>
          {shown.map((s, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: equal diagnostics have no other name
            <Row key={i} upgrade={upgrade} symptom={s} earlier={comparison.earlier.number} />
          ))}
        </tbody>
      </table>
      {lost.length > 0 && (
        <>
          <h2 className="mb-2 mt-6 font-semibold">{lost.length} tests lost</h2>
          <ul className="space-y-1">
            {lost.map((l) => (
              <li key={l} className="border-l-2 border-alarm pl-3">
                {l}
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

function Side({ upgrade, run, name }: { upgrade: number; run: Run; name: string }) {
  const { facts } = run;
  return (
    <section className="min-w-0">
      <h2 className="text-xs text-soft">{name}</h2>
      <p className="truncate">
        <Link to={`/upgrades/${upgrade}/runs/${run.number}`} className="font-mono text-copper hover:underline">
          #{run.number}
        </Link>{" "}
        <span className="font-semibold">{facts.check}</span>{" "}
        <span className="text-soft">
          status {facts.exit ?? 0}, reached {run.frontier || "nothing"}, {run.symptoms} symptoms
        </span>
      </p>
      <p className="truncate text-xs text-soft">
        <span className="font-mono">{facts.commit?.slice(0, 7)}</span> {facts.subject}
      </p>
    </section>
  );
}

const shapes: Record<Compared["state"], [mark: string, word: string, colour: string]> = {
  new: ["▲", "new", "text-alarm"],
  absent: ["✓", "gone", "text-calm"],
  updated: ["·", "the same, in other words", "text-soft"],
  unchanged: ["·", "the same", "text-soft"],
};

function Row({ upgrade, symptom, earlier }: { upgrade: number; symptom: Compared; earlier: number }) {
  const [mark, word, colour] = shapes[symptom.state];
  const at = (old: boolean) => symptom.places.find((p) => (p.run === earlier) === old);
  return (
    <tr className="border-t border-line align-baseline">
      <td className={`w-8 py-1.5 pl-1 ${colour}`} title={word}>
        {mark}
        <span className="sr-only">{word}</span>
      </td>
      <td className="min-w-0 py-1.5 pr-4">
        <span className="[overflow-wrap:anywhere]">{symptom.message}</span>
        <span className="block font-mono text-xs text-soft">
          {symptom.test || (symptom.line > 0 ? `${symptom.file}:${symptom.line}` : symptom.file)}
        </span>
      </td>
      {[true, false].map((old) => {
        const place = at(old);
        return (
          <td key={String(old)} className="w-32 whitespace-nowrap py-1.5 text-right text-xs">
            {place ? (
              <Link
                to={`/upgrades/${upgrade}/runs/${place.run}?input=${place.inputId}&line=${place.line}`}
                className="text-soft hover:text-copper"
              >
                {place.input}:{place.line}
              </Link>
            ) : (
              <span className="text-soft">–</span>
            )}
          </td>
        );
      })}
    </tr>
  );
}
