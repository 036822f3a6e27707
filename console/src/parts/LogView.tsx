import { useQueries } from "@tanstack/react-query";
import { type FormEvent, useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import type { Run, RunSymptom } from "../api/client";
import { inputLines, useHits } from "../api/queries";
import { useKeys } from "./keys";

interface Props {
  upgrade: number;
  input: Run["inputs"][number];
  symptoms: RunSymptom[];
  line: number; // to begin with
  goTo: (line: number) => void;
}

const rowHeight = 20;
const pageSize = 200;

/**
 * A log of any length. It has no scroll height of its own, which browsers
 * bound: the line at the top is the state, and a rail at the side shows where
 * in the whole log that is, with a tick for every symptom.
 */
export function LogView({ upgrade, input, symptoms, line, goTo }: Props) {
  const total = Math.max(input.lines, 1);
  const [rows, setRows] = useState(fitting);
  const [top, setTop] = useState(() => clamp(line - 5, total, fitting()));
  const [at, setAt] = useState(line);
  const [fold, setFold] = useState(false);
  const [text, setText] = useState("");
  const hits = useHits(upgrade, input.id, text);
  const view = useRef<HTMLDivElement>(null);
  const field = useRef<HTMLInputElement>(null);

  useEffect(() => {
    const measure = () => setRows(fitting);
    addEventListener("resize", measure);
    return () => removeEventListener("resize", measure);
  }, []);

  const show = (n: number) => {
    const wanted = Math.max(1, Math.min(n, total));
    setAt(wanted);
    setTop(clamp(wanted - Math.floor(rows / 3), total, rows));
    goTo(wanted);
  };
  const move = (by: number) => setTop((n) => clamp(n + by, total, rows));

  useEffect(() => {
    const element = view.current;
    if (!element) return;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      setTop((n) =>
        clamp(n + Math.sign(e.deltaY) * Math.max(1, Math.round(Math.abs(e.deltaY) / rowHeight)), total, rows),
      );
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, [total, rows]);

  const places = useMemo(() => [...new Set(symptoms.map((s) => s.from))].sort((a, b) => a - b), [symptoms]);
  const next = () => show(places.find((p) => p > at) ?? at);
  const before = () => show(places.findLast((p) => p < at) ?? at);
  const found = hits.data?.lines.map((l) => l.line) ?? [];
  useKeys({
    j: ["next symptom", next],
    k: ["symptom before", before],
    n: ["next line found", () => show(found.find((p) => p > at) ?? at)],
    N: ["line found before", () => show(found.findLast((p) => p < at) ?? at)],
    l: ["look for a text in the log", () => setTimeout(() => field.current?.focus(), 50)],
    g: ["to the first line", () => show(1)],
    G: ["to the last line", () => show(total)],
  });

  return (
    <section aria-label={input.name}>
      <Tools
        total={total}
        field={field}
        search={setText}
        go={show}
        fold={fold}
        setFold={setFold}
        symptoms={places.length}
        state={text === "" ? "" : hits.data ? `${found.length}${hits.data.more ? "+" : ""} found` : "searching"}
        step={(forward) => show((forward ? found.find((p) => p > at) : found.findLast((p) => p < at)) ?? at)}
        jump={(forward) => (forward ? next() : before())}
      />
      <div className="flex border border-line bg-sheet">
        <div
          ref={view}
          role="log"
          aria-live="off"
          aria-label={`Lines ${top} to ${Math.min(top + rows - 1, total)} of ${total}`}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: the log takes keys, as a scrolled region does
          tabIndex={0}
          onKeyDown={(e) => {
            const by = { ArrowDown: 1, ArrowUp: -1, PageDown: rows - 2, PageUp: 2 - rows, Home: -total, End: total }[
              e.key
            ];
            if (by) {
              e.preventDefault();
              move(by);
            }
          }}
          className="min-w-0 flex-1 overflow-x-auto overflow-y-hidden font-mono text-xs"
          style={{ height: rows * rowHeight }}
        >
          <Rows
            upgrade={upgrade}
            input={input.id}
            top={top}
            rows={rows}
            total={total}
            at={at}
            fold={fold}
            text={text}
            symptoms={symptoms}
            pick={show}
          />
        </div>
        <Rail
          total={total}
          top={top}
          rows={rows}
          places={places}
          found={found}
          go={(n) => setTop(clamp(n, total, rows))}
        />
      </div>
    </section>
  );
}

/** How many rows the window has room for. */
function fitting() {
  return Math.max(8, Math.floor((innerHeight * 0.68) / rowHeight));
}

function clamp(top: number, total: number, rows: number) {
  return Math.max(1, Math.min(top, total - rows + 1));
}

interface ToolsProps {
  total: number;
  field: React.RefObject<HTMLInputElement | null>;
  search: (text: string) => void;
  go: (line: number) => void;
  fold: boolean;
  setFold: (fold: boolean) => void;
  symptoms: number;
  state: string;
  step: (forward: boolean) => void;
  jump: (forward: boolean) => void;
}

function Tools(props: ToolsProps) {
  const submit = (act: (value: string) => void) => (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    act(String(new FormData(e.currentTarget).get("value") ?? ""));
  };
  const button = "moves rounded border border-line px-1.5 hover:border-copper";
  return (
    <div className="no-print mb-1 flex flex-wrap items-center gap-x-4 gap-y-1 text-xs text-soft">
      <form onSubmit={submit(props.search)} className="flex items-center gap-1">
        <input
          ref={props.field}
          name="value"
          type="search"
          placeholder="search this log"
          aria-label="Search this log"
          className="w-52 rounded border border-line bg-sheet px-2 py-0.5 text-ink"
        />
        {props.state && (
          <>
            <button type="button" className={button} onClick={() => props.step(false)} aria-label="Line found before">
              ↑
            </button>
            <button type="button" className={button} onClick={() => props.step(true)} aria-label="Next line found">
              ↓
            </button>
            <span aria-live="polite">{props.state}</span>
          </>
        )}
      </form>
      <form onSubmit={submit((v) => props.go(Number(v)))} className="flex items-center gap-1">
        <label>
          line{" "}
          <input
            name="value"
            inputMode="numeric"
            pattern="[0-9]+"
            aria-label="Go to a line"
            className="w-20 rounded border border-line bg-sheet px-2 py-0.5 text-right text-ink"
          />
        </label>
        of {props.total.toLocaleString("en")}
      </form>
      <span className="flex items-center gap-1">
        <button type="button" className={button} onClick={() => props.jump(false)} aria-label="Symptom before">
          ↑
        </button>
        <button type="button" className={button} onClick={() => props.jump(true)} aria-label="Next symptom">
          ↓
        </button>
        {props.symptoms} {props.symptoms === 1 ? "place" : "places"} with symptoms
      </span>
      <label className="flex items-center gap-1">
        <input
          type="checkbox"
          checked={props.fold}
          onChange={(e) => props.setFold(e.target.checked)}
          className="accent-(--copper)"
        />
        fold prefixes
      </label>
    </div>
  );
}

interface RowsProps {
  upgrade: number;
  input: number;
  top: number;
  rows: number;
  total: number;
  at: number;
  fold: boolean;
  text: string;
  symptoms: RunSymptom[];
  pick: (line: number) => void;
}

/** The lines in view; they are read in pages, which are kept. */
function Rows({ upgrade, input, top, rows, total, at, fold, text, symptoms, pick }: RowsProps) {
  const first = Math.floor((top - 1) / pageSize);
  const last = Math.floor((Math.min(top + rows, total) - 1) / pageSize);
  const pages = useQueries({
    queries: Array.from({ length: last - first + 1 }, (_, i) =>
      inputLines(upgrade, input, (first + i) * pageSize + 1, pageSize),
    ),
  });
  const failed = pages.find((p) => p.error);
  if (failed?.error) return <p className="p-2 text-alarm">{failed.error.message}</p>;
  const near = symptoms.filter((s) => s.end >= top && s.from < top + rows);
  return Array.from({ length: Math.min(rows, total - top + 1) }, (_, i) => {
    const n = top + i;
    const page = pages[Math.floor((n - 1) / pageSize) - first];
    const line = page?.data?.lines[(n - 1) % pageSize];
    const starts = near.filter((s) => s.from === n);
    const inside = near.some((s) => n >= s.from && n <= s.end);
    return (
      <div
        key={n}
        data-line={n}
        className={`flex w-max min-w-full whitespace-pre leading-5 ${n === at ? "bg-wash" : ""}`}
        style={{ height: rowHeight }}
      >
        <span
          className={`sticky left-0 flex bg-sheet ${inside ? "border-l-2 border-copper" : "border-l-2 border-transparent"}`}
        >
          <button
            type="button"
            tabIndex={-1}
            onClick={() => pick(n)}
            className="w-16 select-none pr-2 text-right text-soft"
          >
            {n}
          </button>
          <Margin upgrade={upgrade} symptoms={starts} />
        </span>
        {line === undefined ? <span className="text-soft">…</span> : <Line text={line} fold={fold} mark={text} />}
      </div>
    );
  });
}

/** How a diagnostic was known to be one, as its margin says. */
const knownBy: Record<RunSymptom["basis"], string> = {
  tool: "known: these are the tool's own words",
  pattern: "known by a pattern of the project",
  keys: "known by the keys of the report",
  place: "known by a place beside a severity or a rule",
  tree: "known by a file of the project",
  repeat: "known by another line of its shape",
  verdict: "known by a verdict beside a test's name",
  stack: "known by the frames of a stack",
  guess: "a guess: a word of severity, and nothing else",
};

function Margin({ upgrade, symptoms }: { upgrade: number; symptoms: RunSymptom[] }) {
  const [first, ...more] = symptoms;
  if (!first) return <span className="w-14" />;
  const title = symptoms.map((s) => `${s.kind}: ${s.message}\n${knownBy[s.basis]}`).join("\n");
  const mark = first.level === "error" ? "▲" : "△";
  const look = first.level === "error" ? "text-alarm" : "text-amber";
  const name = `${mark}${first.basis === "guess" ? "?" : ""} ${first.cause}${more.length > 0 ? "+" : ""}`;
  return first.cause ? (
    <Link
      to={`/upgrades/${upgrade}/causes/${first.cause}`}
      title={title}
      className={`w-14 hover:underline ${look}`}
      aria-label={`${first.cause}: ${title}`}
    >
      {name}
    </Link>
  ) : (
    <span title={title} className={`w-14 ${look}`}>
      {name}
    </span>
  );
}

/** What wrappers put before a line: a time, a service, a workspace. */
const prefixes =
  /^(\[?\d{4}-\d\d-\d\d[T ]\d\d:\d\d:\d\d[^ \]]*\]? |\[?\d\d:\d\d:\d\d[^ \]]*\]? )?([\w.@/-]+ +\| |\[[A-Za-z@][\w.@/-]*\] )?/;
// biome-ignore lint/suspicious/noControlCharactersInRegex: these are the control sequences of a terminal
const escapes = /\u001b\[[0-9;?]*[ -/]*[@-~]|\u001b\][^\u0007\u001b]*(\u0007|\u001b\\)/g;

function Line({ text, fold, mark }: { text: string; fold: boolean; mark: string }) {
  const plain = text.replace(escapes, "").replaceAll("\r", "");
  const cut = fold ? (prefixes.exec(plain)?.[0].length ?? 0) : 0;
  const shown = plain.slice(cut).replaceAll("\t", "    ");
  const where = mark ? shown.toLowerCase().indexOf(mark.toLowerCase()) : -1;
  return (
    <span className="pr-4">
      {cut > 0 && (
        <span className="text-soft" title={plain.slice(0, cut)}>
          …{" "}
        </span>
      )}
      {where < 0 ? (
        shown
      ) : (
        <>
          {shown.slice(0, where)}
          <mark className="bg-amber/30 text-inherit">{shown.slice(where, where + mark.length)}</mark>
          {shown.slice(where + mark.length)}
        </>
      )}
    </span>
  );
}

interface RailProps {
  total: number;
  top: number;
  rows: number;
  places: number[];
  found: number[];
  go: (line: number) => void;
}

/** The whole log as a rail: where the view is, and where the symptoms are. */
function Rail({ total, top, rows, places, found, go }: RailProps) {
  const rail = useRef<HTMLDivElement>(null);
  const height = rows * rowHeight;
  const y = (n: number) => ((n - 1) / total) * height;
  const ticks = useMemo(
    () => [...new Set(places.map((p) => Math.round(((p - 1) / total) * height)))],
    [places, total, height],
  );
  const drag = (e: React.PointerEvent) => {
    if (e.buttons !== 1 || !rail.current) return;
    const box = rail.current.getBoundingClientRect();
    go(Math.round(((e.clientY - box.top) / box.height) * total) - Math.floor(rows / 2));
  };
  return (
    <div
      ref={rail}
      aria-hidden="true"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag(e);
      }}
      onPointerMove={drag}
      className="no-print relative w-4 cursor-pointer touch-none border-l border-line"
    >
      <span
        className="absolute inset-x-0 bg-wash"
        style={{ top: y(top), height: Math.max(12, (Math.min(rows, total) / total) * height) }}
      />
      {ticks.map((t) => (
        <span key={t} className="absolute inset-x-0.5 h-0.5 bg-alarm" style={{ top: t }} />
      ))}
      {found.slice(0, 200).map((n) => (
        <span key={n} className="absolute right-0 h-0.5 w-1.5 bg-amber" style={{ top: y(n) }} />
      ))}
    </div>
  );
}
