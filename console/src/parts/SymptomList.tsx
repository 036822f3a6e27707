import type { Symptom } from "../api/client";
import { useInputLines } from "../api/queries";
import { CopyButton, Middle } from "./basics";

interface Props {
  upgrade: number;
  symptoms: Symptom[];
  chosen: string[];
  onChoose: (ids: string[], on: boolean) => void;
}

/** The best symptom in full, the others folded by file; each can be chosen, and each file. */
export function SymptomList({ upgrade, symptoms, chosen, onChoose }: Props) {
  const [root, ...rest] = symptoms;
  if (!root) return null;
  const files = new Map<string, Symptom[]>();
  for (const s of rest) {
    const file = s.file || s.unit || s.test;
    files.set(file, [...(files.get(file) ?? []), s]);
  }
  return (
    <div className="space-y-3">
      <Full upgrade={upgrade} symptom={root} open chosen={chosen.includes(root.id)} onChoose={onChoose} />
      {[...files].map(([file, list]) => (
        <div key={file} className="flex items-start gap-2 border-t border-line pt-2">
          <input
            type="checkbox"
            aria-label={`Choose what stands in ${file}`}
            checked={list.every((s) => chosen.includes(s.id))}
            onChange={(e) =>
              onChoose(
                list.map((s) => s.id),
                e.target.checked,
              )
            }
            className="no-print mt-1 accent-copper"
          />
          <details className="min-w-0 flex-1">
            <summary className="cursor-pointer">
              <span className="font-mono text-xs">{file}</span>{" "}
              <span className="text-xs text-soft">
                {list.length} {list.every((s) => s.follower) ? "that only follow" : ""}
              </span>
            </summary>
            <div className="mt-2 space-y-4">
              {list.map((s) => (
                <Full key={s.id} upgrade={upgrade} symptom={s} chosen={chosen.includes(s.id)} onChoose={onChoose} />
              ))}
            </div>
          </details>
        </div>
      ))}
    </div>
  );
}

interface FullProps {
  upgrade: number;
  symptom: Symptom;
  open?: boolean;
  chosen: boolean;
  onChoose: Props["onChoose"];
}

function Full({ upgrade, symptom, open, chosen, onChoose }: FullProps) {
  const place = symptom.line > 0 ? `${symptom.file}:${symptom.line}` : symptom.file;
  const where = place || symptom.unit;
  return (
    <article>
      <p className="flex flex-wrap items-center gap-x-2">
        <input
          type="checkbox"
          aria-label={`Choose the symptom at ${where}`}
          data-symptom={symptom.id}
          checked={chosen}
          onChange={(e) => onChoose([symptom.id], e.target.checked)}
          className="no-print accent-copper"
        />
        <span className="font-mono text-xs">{where}</span>
        <CopyButton text={where} label="Copy the place" />
        {symptom.test && <span className="text-xs text-soft">{symptom.test}</span>}
        <span className="text-xs text-soft">
          {[
            standing(symptom),
            symptom.still,
            symptom.origin && symptom.origin !== "bump" ? symptom.origin : "",
            symptom.code,
          ]
            .filter(Boolean)
            .join(" · ")}
        </span>
      </p>
      <p className="mb-2 [overflow-wrap:anywhere]">
        <Middle text={symptom.message} most={400} />
      </p>
      {symptom.because && !open && (
        <p className="mb-1 text-xs text-soft">
          {symptom.because.what} <code>{symptom.because.value}</code>
        </p>
      )}
      {symptom.source.length > 0 && <Source symptom={symptom} />}
      <Pictures upgrade={upgrade} symptom={symptom} />
      {symptom.places[0] && <Log upgrade={upgrade} symptom={symptom} open={open} />}
    </article>
  );
}

/** What a failing test left to be seen, beside what it left in the baseline. */
function Pictures({ upgrade, symptom }: { upgrade: number; symptom: Symptom }) {
  const address = (run: number, picture: number) => `/api/v1/upgrades/${upgrade}/runs/${run}/pictures/${picture}`;
  if (!symptom.pictures?.length) return null;
  return (
    <ul className="mb-2 space-y-2" data-list="pictures">
      {symptom.pictures.map((p) => (
        <li key={p.name} className="grid gap-2 sm:grid-cols-2">
          {p.before && (
            <Shot src={address(p.before.run, p.before.picture)} name={p.name} text={`before, run ${p.before.run}`} />
          )}
          <Shot src={address(p.run, p.picture)} name={p.name} text={`now, run ${p.run}`} />
        </li>
      ))}
    </ul>
  );
}

function Shot({ src, name, text }: { src: string; name: string; text: string }) {
  return (
    <figure className="min-w-0">
      <a href={src}>
        <img src={src} alt={`${name}, ${text}`} loading="lazy" className="max-h-64 border border-line" />
      </a>
      <figcaption className="truncate text-xs text-soft" title={name}>
        {text}: {name}
      </figcaption>
    </figure>
  );
}

function standing(s: Symptom) {
  if (s.status === "cleared") return "cleared";
  if (s.status === "hidden") return "out of sight";
  return s.follower ? "follows" : "";
}

function Source({ symptom }: { symptom: Symptom }) {
  return (
    <pre className="mb-2 whitespace-pre-wrap [overflow-wrap:anywhere] bg-sheet py-1.5 text-xs leading-relaxed">
      {symptom.source.map((l) => (
        <span
          key={l.line}
          className={`block pl-[3.25rem] pr-2 -indent-[2.75rem] ${l.line === symptom.line ? "border-l-2 border-copper bg-wash" : "border-l-2 border-transparent text-soft"}`}
        >
          <span className="mr-3 inline-block w-8 select-none indent-0 text-right text-soft">{l.line}</span>
          {l.text.replaceAll("\t", "    ")}
        </span>
      ))}
    </pre>
  );
}

const before = 1;

/** The raw output around the symptom, in the last run that has it. */
function Log({ upgrade, symptom, open }: { upgrade: number; symptom: Symptom; open?: boolean }) {
  const place = symptom.places[0];
  const from = Math.max(1, (place?.line ?? 1) - before);
  const count = Math.min((place?.end ?? 0) - from + 2, 14);
  const lines = useInputLines(upgrade, place?.inputId ?? 0, from, Math.max(count, 3));
  if (!place) return null;
  const more = symptom.places.length - 1;
  // A line of JSON or XML is for programs: the message is shown as the tool means it.
  const own = lines.data?.lines[place.line - from] ?? "";
  const meant = /^\s*[{<[]/.test(own) ? symptom.detail || symptom.message : "";
  const raw = (
    <pre className="mt-1 whitespace-pre-wrap [overflow-wrap:anywhere] bg-sheet py-1.5 text-xs leading-relaxed">
      {lines.data?.lines.map((text, i) => {
        const n = from + i;
        const own = n >= place.line && n <= place.end;
        return (
          <span key={n} className={`block pl-[3.25rem] pr-2 -indent-[2.75rem] ${own ? "" : "text-soft"}`}>
            <span className="mr-3 inline-block w-8 select-none indent-0 text-right text-soft">{n}</span>
            {text}
          </span>
        );
      })}
    </pre>
  );
  return (
    <details open={open}>
      <summary className="cursor-pointer text-xs text-soft">
        {place.input}:{place.line} in run {place.run} of {place.check}
        {more > 0 && ` and ${more} more ${more === 1 ? "place" : "places"}`}
      </summary>
      {meant ? (
        <>
          <pre className="mt-1 whitespace-pre-wrap bg-sheet px-2 py-1.5 text-xs leading-relaxed [overflow-wrap:anywhere]">
            {meant}
          </pre>
          <details>
            <summary className="cursor-pointer text-xs text-soft">as it stands in the report</summary>
            {raw}
          </details>
        </>
      ) : (
        raw
      )}
    </details>
  );
}
