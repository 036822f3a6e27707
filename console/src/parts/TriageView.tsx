import { ArrowRight } from "lucide-react";
import { useMemo, useState } from "react";
import type { ReportCause, ReportChange, ReportSymptom, TriageReport } from "../api/triage";
import { CopyButton, Heading, Middle } from "./basics";
import { Evidence } from "./Evidence";
import { linesOf, type Piece } from "./pieces";

const firstCauses = 10;
const firstSymptoms = 50;

interface Props {
  report: TriageReport;
  pieces: Piece[];
}

/** The causes of a report that is not stored, in the order to tackle them, and the rest of what it says. */
export function TriageView({ report, pieces }: Props) {
  const symptoms = useMemo(() => new Map(report.symptoms.map((s) => [s.id, s])), [report]);
  const changes = useMemo(() => new Map(report.changes.map((c) => [c.id, c])), [report]);
  const fresh = report.causes.filter((c) => !c.known);
  const known = report.causes.filter((c) => c.known);
  const silent = report.changes.filter((c) => c.silent);
  const failed = report.inputs.filter((i) => i.problem);
  const short = report.inputs.flatMap((i) =>
    i.stated.filter((s) => s.count !== s.read).map((s) => ({ ...s, input: i.name })),
  );
  const [all, setAll] = useState(false);
  const shown = all ? fresh : fresh.slice(0, firstCauses);
  return (
    <div className="space-y-6">
      <ol className="divide-y divide-line border-y border-line" data-list="triage">
        {shown.map((c) => (
          <li key={c.id} className="py-4">
            <CauseOf cause={c} symptoms={symptoms} changes={changes} pieces={pieces} />
          </li>
        ))}
      </ol>
      {fresh.length > shown.length && (
        <button type="button" onClick={() => setAll(true)} className="text-copper underline underline-offset-2">
          Show all {fresh.length} causes
        </button>
      )}
      <Rest title="Silent risks" aside="in the code, and nothing that was printed shows them" count={silent.length}>
        {silent.map((c) => (
          <li key={c.id}>
            <span className="font-mono text-xs">
              {c.notes}:{c.line}
            </span>{" "}
            {c.title}{" "}
            <span className="text-xs text-soft">
              {c.exposure.places} {c.exposure.places === 1 ? "place" : "places"} in {c.exposure.files}{" "}
              {c.exposure.files === 1 ? "file" : "files"}
            </span>
          </li>
        ))}
      </Rest>
      <Rest title="There before the bump" count={known.length}>
        {known.map((c) => (
          <li key={c.id}>
            {c.title} <span className="text-xs text-soft">{c.symptoms.length} symptoms</span>
          </li>
        ))}
      </Rest>
      <Rest title="Read only in part" count={failed.length}>
        {failed.map((i) => (
          <li key={i.name}>
            <span className="font-mono text-xs">{i.name}</span>: {i.problem}
          </li>
        ))}
      </Rest>
      <Rest title="Totals that do not add up" aside="what a tool counted, beside what was read" count={short.length}>
        {short.map((s) => (
          <li key={`${s.input}:${s.line}`}>
            <span className="font-mono text-xs">
              {s.input}:{s.line}
            </span>{" "}
            says {s.count} {s.what}, {s.read} were read
          </li>
        ))}
      </Rest>
      <Rest title="Unread lines that look like errors" count={report.unread.length}>
        {report.unread.slice(0, 200).map((u) => (
          <li key={`${u.input}:${u.line}`}>
            <span className="font-mono text-xs text-soft">
              {u.input}:{u.line}
            </span>{" "}
            <code className="text-xs [overflow-wrap:anywhere]">{u.text}</code>
          </li>
        ))}
      </Rest>
    </div>
  );
}

function Rest(props: { title: string; aside?: string; count: number; children: React.ReactNode }) {
  if (props.count === 0) return null;
  return (
    <details>
      <summary className="cursor-pointer">
        <span className="font-semibold">{props.title}</span>{" "}
        <span className="text-xs text-soft">
          {props.count}
          {props.aside && `, ${props.aside}`}
        </span>
      </summary>
      <ul className="mt-2 space-y-1">{props.children}</ul>
    </details>
  );
}

interface CauseProps {
  cause: ReportCause;
  symptoms: Map<string, ReportSymptom>;
  changes: Map<string, ReportChange>;
  pieces: Piece[];
}

function CauseOf({ cause, symptoms, changes, pieces }: CauseProps) {
  const root = symptoms.get(cause.root);
  const [best, ...others] = cause.links;
  const likely = best?.standing === "likely" ? best : undefined;
  const perhaps = likely ? others : cause.links;
  const rest = cause.symptoms.filter((id) => id !== cause.root);
  return (
    <article>
      <div className="flex items-baseline justify-between gap-4">
        <h3 className="font-semibold [overflow-wrap:anywhere]">
          <span className="mr-2 font-mono text-xs text-soft">{cause.id}</span>
          {cause.title}
        </h3>
        <span className="shrink-0 text-xs text-soft">
          {cause.symptoms.length} {cause.symptoms.length === 1 ? "symptom" : "symptoms"} · {cause.phase}
        </span>
      </div>
      <p className="mb-2 text-xs text-soft">{cause.reason}</p>
      <div className="grid gap-x-8 gap-y-4 lg:grid-cols-2">
        <div className="min-w-0 space-y-2">
          {root && <SymptomOf symptom={root} pieces={pieces} />}
          {cause.steps
            .filter((s) => s.kind !== "places")
            .slice(0, 2)
            .map((s) => (
              <p key={s.text} className="grid grid-cols-[1rem_1fr] gap-1">
                <ArrowRight className="mt-1 size-3.5 text-copper" aria-hidden="true" />
                <span className="[overflow-wrap:anywhere]">{s.text}</span>
              </p>
            ))}
          {rest.length > 0 && (
            <details>
              <summary className="cursor-pointer text-soft">
                {rest.length} more {rest.length === 1 ? "symptom" : "symptoms"}
                {cause.followers.length > 0 && `, ${cause.followers.length} only follow`}
              </summary>
              <div className="mt-2 space-y-3">
                {rest.slice(0, firstSymptoms).map((id) => {
                  const s = symptoms.get(id);
                  return s && <SymptomOf key={id} symptom={s} pieces={pieces} />;
                })}
                {rest.length > firstSymptoms && (
                  <p className="text-xs text-soft">
                    and {rest.length - firstSymptoms} more: the report as JSON has them all
                  </p>
                )}
              </div>
            </details>
          )}
        </div>
        <div className="min-w-0">
          {likely && <Explained link={likely} change={changes.get(likely.change)} pieces={pieces} />}
          {cause.links.length === 0 && <p className="text-soft">Cannot tell: no entry of the notes explains this.</p>}
          {perhaps.length > 0 && (
            <details className="mt-2" open={!likely && perhaps.length === 1}>
              <summary className="cursor-pointer text-soft">
                Perhaps {perhaps.length === 1 ? "this entry" : `one of ${perhaps.length} entries`}
              </summary>
              <div className="mt-2 space-y-3">
                {perhaps.map((l) => (
                  <Explained key={l.change} link={l} change={changes.get(l.change)} pieces={pieces} />
                ))}
              </div>
            </details>
          )}
        </div>
      </div>
    </article>
  );
}

function SymptomOf({ symptom, pieces }: { symptom: ReportSymptom; pieces: Piece[] }) {
  const [log, setLog] = useState<string[]>();
  const at = symptom.at.at(-1);
  const file = at && pieces.find((p) => p.name === at.input);
  const place = symptom.line > 0 ? `${symptom.file}:${symptom.line}` : symptom.file || symptom.unit || symptom.test;
  const read = async () => {
    if (at && file) setLog(await linesOf(file.content, Math.max(1, at.line - 1), (at.end ?? at.line) - at.line + 4));
  };
  return (
    <div>
      <p className="flex flex-wrap items-center gap-x-2 text-xs">
        {place && (
          <>
            <span className="font-mono">
              <Middle text={place} most={70} />
            </span>
            <CopyButton text={place} label="Copy the place" />
          </>
        )}
        {symptom.test && place !== symptom.test && <span className="text-soft">{symptom.test}</span>}
        {at && file && (
          <button type="button" onClick={read} className="text-soft underline underline-offset-2 hover:text-copper">
            {at.input}:{at.line}
          </button>
        )}
      </p>
      <pre className="mt-1 whitespace-pre-wrap bg-sheet px-2 py-1 text-xs leading-relaxed [overflow-wrap:anywhere]">
        {symptom.message}
        {symptom.source && <span className="block text-soft">{symptom.source}</span>}
      </pre>
      {log && (
        <pre className="whitespace-pre-wrap [overflow-wrap:anywhere] border-l-2 border-line px-2 py-1 text-xs leading-relaxed text-soft">
          {log.join("\n")}
        </pre>
      )}
    </div>
  );
}

interface ExplainedProps {
  link: ReportCause["links"][number];
  change?: ReportChange;
  pieces: Piece[];
}

function Explained({ link, change, pieces }: ExplainedProps) {
  const [text, setText] = useState<string[]>();
  const file = change && pieces.find((p) => p.name === change.notes);
  if (change && file && !text) {
    linesOf(file.content, change.line, Math.min(change.end - change.line + 1, 40)).then(setText);
  }
  if (!change) return null;
  return (
    <div>
      <p className="text-xs">
        <span className="font-mono">
          {change.notes}:{change.line}
        </span>{" "}
        <span className="text-soft">
          {[change.kind, change.version].filter(Boolean).join(" ")} ·{" "}
          {link.standing === "likely" ? "likely" : "perhaps"}, {Math.round(link.score * 100)} %
        </span>
      </p>
      <pre className="my-1 whitespace-pre-wrap border-l-2 border-copper bg-sheet px-2 py-1 text-xs leading-relaxed">
        {text?.join("\n") ?? change.title}
      </pre>
      <details>
        <summary className="cursor-pointer text-xs text-soft">Why</summary>
        <Evidence because={link.because} />
      </details>
    </div>
  );
}

/** What came out, in one line. */
export function Outcome({ report }: { report: TriageReport }) {
  const { summary } = report;
  const fresh = report.causes.filter((c) => !c.known);
  const linked = fresh.filter((c) => c.links[0]?.standing === "likely").length;
  return (
    <Heading aside={`${summary.unchanged + summary.updated} unchanged, ${summary.absent} gone`}>
      {summary.new === 0
        ? "Nothing new"
        : `${summary.new} new ${summary.new === 1 ? "symptom" : "symptoms"} from ${fresh.length} ${fresh.length === 1 ? "cause" : "causes"}, ${linked} explained by the notes`}
    </Heading>
  );
}
