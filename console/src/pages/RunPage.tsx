import { Link, useParams, useSearchParams } from "react-router";
import { useRetry } from "../api/acts";
import type { Run, RunSymptom } from "../api/client";
import { useHead, useRun, useRunSymptoms, useRuns } from "../api/queries";
import { CopyButton, Skeleton, Trouble } from "../parts/basics";
import { LogView } from "../parts/LogView";

/** One run: how it was made, and its output with the symptoms in the margin. */
export function RunPage() {
  const params = useParams();
  const upgrade = Number(params.upgrade);
  const number = Number(params.run);
  const head = useHead(upgrade);
  const run = useRun(upgrade, number);
  const symptoms = useRunSymptoms(upgrade, number);
  const error = head.error ?? run.error ?? symptoms.error;
  if (error) return <Trouble error={error} retry={() => run.refetch()} />;
  if (!head.data || !run.data || !symptoms.data) return <Skeleton rows={12} />;
  return (
    <>
      <title>{`Run ${number} of ${run.data.facts.check} · Unicausa`}</title>
      <Facts upgrade={upgrade} run={run.data} />
      <Output upgrade={upgrade} run={run.data} symptoms={symptoms.data} />
    </>
  );
}

function Facts({ upgrade, run }: { upgrade: number; run: Run }) {
  const { facts } = run;
  const before = useRuns(upgrade).data?.find((r) => r.number < run.number && r.facts.check === facts.check);
  const versions = Object.entries(facts.versions ?? {}).sort();
  return (
    <section className="mb-4">
      <p>
        <span className="font-mono text-copper">#{run.number}</span>{" "}
        <span className="font-semibold">{facts.check}</span>{" "}
        <span className="text-soft">
          status {facts.exit ?? 0}, reached {run.frontier || "nothing that could be read"}, {run.symptoms} symptoms
          {run.baseline && ", in the baseline"}
        </span>{" "}
        {before && (
          <Link
            to={`/upgrades/${upgrade}/compare/${before.number}/${run.number}`}
            className="text-copper underline underline-offset-2"
          >
            compare with #{before.number}
          </Link>
        )}
      </p>
      {facts.command && (
        <p className="flex items-center gap-1 text-xs">
          <code className="truncate">{facts.command}</code>
          <CopyButton text={facts.command} label="Copy the command" />
        </p>
      )}
      <p className="truncate text-xs text-soft">
        {facts.startedAt && new Date(facts.startedAt).toISOString().slice(0, 16).replace("T", " ")}
        {facts.millis ? `, ${(facts.millis / 1000).toFixed(1)} s` : ""} ·{" "}
        <span className="font-mono">{facts.commit?.slice(0, 7)}</span> {facts.subject}
        {facts.branch && ` on ${facts.branch}`}
        {facts.dirty && (
          <span className="text-amber">
            {" "}
            with uncommitted changes{facts.diff && ` (diff ${facts.diff.slice(0, 12)})`}
          </span>
        )}
        {versions.length > 0 && ` · ${versions.map(([n, v]) => `${n} ${v}`).join(", ")}`}
      </p>
      {run.notices.map((n) => (
        <p key={n} className="text-amber">
          {n}
        </p>
      ))}
      {run.status === "interrupted" && (
        <p className="text-amber">Interrupted: what came until then is kept, and counts for nothing.</p>
      )}
      {run.problem && (
        <p className="text-alarm">
          {run.problem} <Retry upgrade={upgrade} run={run.number} />
        </p>
      )}
      {run.pictures.length > 0 && (
        <ul className="mt-2 flex flex-wrap gap-3" data-list="pictures">
          {run.pictures.map((p, i) => (
            <li key={p.name}>
              <a href={`/api/v1/upgrades/${upgrade}/runs/${run.number}/pictures/${i}`}>
                <img
                  src={`/api/v1/upgrades/${upgrade}/runs/${run.number}/pictures/${i}`}
                  alt={p.name}
                  className="h-32 rounded border border-line"
                />
                <span className="text-xs text-soft">{p.name}</span>
              </a>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** Queues a run again that was set aside. */
function Retry({ upgrade, run }: { upgrade: number; run: number }) {
  const retry = useRetry(upgrade);
  return (
    <button
      type="button"
      disabled={retry.isPending}
      onClick={() => retry.mutate(run)}
      className="moves rounded border border-line px-2 py-0.5 text-sm text-ink hover:border-copper"
    >
      Try again
    </button>
  );
}

function Output({ upgrade, run, symptoms }: { upgrade: number; run: Run; symptoms: RunSymptom[] }) {
  const [search, setSearch] = useSearchParams();
  const input = run.inputs.find((i) => i.id === Number(search.get("input"))) ?? run.inputs[0];
  if (!input) return <p className="text-soft">Nothing was recorded.</p>;
  return (
    <>
      {run.inputs.length > 1 && (
        <div className="no-print mb-2 flex flex-wrap gap-3" role="tablist" aria-label="Outputs of this run">
          {run.inputs.map((i) => (
            <button
              key={i.id}
              type="button"
              role="tab"
              aria-selected={i.id === input.id}
              onClick={() => setSearch({ input: String(i.id) })}
              className={`border-b-2 font-mono text-xs ${i.id === input.id ? "border-copper" : "border-transparent text-soft"}`}
            >
              {i.name}
            </button>
          ))}
        </div>
      )}
      {input.problem && <p className="mb-2 text-amber">{input.problem}</p>}
      {input.stated
        .filter((s) => s.count !== s.read)
        .map((s) => (
          <p key={s.line} className="mb-1 text-xs text-amber">
            line {s.line} states {s.count} {s.what}; {s.read} were read
          </p>
        ))}
      <LogView
        key={input.id}
        upgrade={upgrade}
        input={input}
        symptoms={symptoms.filter((s) => s.inputId === input.id)}
        line={Number(search.get("line")) || 1}
        goTo={(line) => setSearch({ input: String(input.id), line: String(line) }, { replace: true })}
      />
    </>
  );
}
