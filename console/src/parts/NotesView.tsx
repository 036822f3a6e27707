import { useEffect, useRef } from "react";
import type { ChangeRow, NotesDocument } from "../api/client";
import { useNotesLines } from "../api/queries";
import { Skeleton, Trouble } from "./basics";

interface Props {
  upgrade: number;
  document: NotesDocument;
  rows: ChangeRow[];
  chosen?: ChangeRow;
  onChoose: (row: ChangeRow) => void;
}

/** How many lines of a long document are shown at once; they overlap by half. */
const window = 600;

/** A document as written; lines of its changes lead to them, the chosen one's stand out. */
export function NotesView({ upgrade, document, rows, chosen, onChoose }: Props) {
  const line = chosen?.change.line ?? 1;
  const from = Math.max(1, (Math.ceil(line / (window / 2)) - 1) * (window / 2) + 1);
  const lines = useNotesLines(upgrade, document.id, from, window);
  const box = useRef<HTMLDivElement>(null);
  const first = lines.data?.from;
  useEffect(() => {
    if (first === undefined) return;
    const target = box.current?.querySelector<HTMLElement>(`[data-line="${line}"]`);
    if (box.current && target) box.current.scrollTop = Math.max(0, target.offsetTop - 64);
  }, [line, first]);
  if (lines.error) return <Trouble error={lines.error} retry={() => lines.refetch()} />;
  if (!lines.data) return <Skeleton rows={12} />;
  const owner = new Map<number, ChangeRow>();
  for (const row of rows) {
    for (let n = row.change.line; n <= row.change.end; n++) if (!owner.has(n)) owner.set(n, row);
  }
  const last = lines.data.from + lines.data.lines.length - 1;
  return (
    <div
      ref={box}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, and the keyboard has to reach it
      tabIndex={0}
      role="document"
      aria-label={`${document.name} as written`}
      className="relative max-h-[calc(100vh-13rem)] min-h-64 overflow-auto rounded border border-line bg-sheet py-2 font-mono text-xs leading-relaxed"
    >
      {lines.data.from > 1 && <p className="px-3 text-soft">… {lines.data.from - 1} lines above</p>}
      {lines.data.lines.map((text, i) => {
        const n = (lines.data?.from ?? 1) + i;
        return <DocumentLine key={n} number={n} text={text} row={owner.get(n)} chosen={chosen} onChoose={onChoose} />;
      })}
      {last < lines.data.total && <p className="px-3 text-soft">… {lines.data.total - last} lines below</p>}
    </div>
  );
}

interface LineProps {
  number: number;
  text: string;
  row?: ChangeRow;
  chosen?: ChangeRow;
  onChoose: (row: ChangeRow) => void;
}

function DocumentLine({ number, text, row, chosen, onChoose }: LineProps) {
  const here = chosen && number >= chosen.change.line && number <= chosen.change.end;
  const edge = here ? "border-copper bg-wash" : row ? "border-line" : "border-transparent";
  const body = (
    <>
      <span className="w-8 shrink-0 select-none text-right text-soft">{number}</span>
      <span
        className={`min-w-0 whitespace-pre-wrap [overflow-wrap:anywhere] ${row && !row.candidate ? "text-soft" : ""}`}
      >
        {text || " "}
      </span>
    </>
  );
  const look = `flex w-full gap-3 border-l-4 px-2 text-left ${edge}`;
  if (!row || number !== row.change.line) {
    return (
      <div data-line={number} className={look}>
        {body}
      </div>
    );
  }
  return (
    <button type="button" data-line={number} onClick={() => onChoose(row)} className={`${look} hover:bg-wash`}>
      {body}
    </button>
  );
}
