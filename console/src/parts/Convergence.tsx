import { useState } from "react";
import { useNavigate } from "react-router";
import type { Cause, ChangeRow } from "../api/client";

const width = 560;
const bar = 6;
const columns = [92, 276, 462]; // where the checks end, the causes stand, the changes begin
const gap = 5;
const most = 12; // causes that are drawn, the largest

interface Strand {
  cause: Cause;
  size: number;
  checks: string[];
  change?: string;
}

interface Node {
  name: string;
  y: number;
  height: number;
  used: [before: number, after: number];
}

interface Props {
  upgrade: number;
  causes: Cause[];
  all: number; // causes that there are
  silent: ChangeRow[];
}

/**
 * Many strands become one: checks on the left, causes in the middle, changes of the notes on the right,
 * bands as wide as the symptoms that they carry. A cause without a note ends in the open; a silent risk
 * starts from a note and touches no check.
 */
export function Convergence({ upgrade, causes, all, silent }: Props) {
  const [over, setOver] = useState("");
  const navigate = useNavigate();
  const largest = new Set([...causes].sort((a, b) => sizeOf(b) - sizeOf(a)).slice(0, most));
  const strands = causes.filter((c) => largest.has(c)).map(strandOf);
  if (strands.length === 0) return null;
  const total = strands.reduce((n, s) => n + s.size, 0);
  const unit = Math.min(9, 150 / total);
  const thick = (s: Strand) => Math.max(1.5, s.size * unit); // of its bands, in pixels
  const weigh = (sizes: Map<string, number>) => stack([...sizes].map(([name, size]) => ({ name, size })));
  const sums = (names: (s: Strand) => string[]) => {
    const list = new Map<string, number>();
    for (const s of strands) {
      for (const name of names(s)) list.set(name, (list.get(name) ?? 0) + thick(s) / names(s).length);
    }
    return list;
  };
  const checks = weigh(sums((s) => s.checks));
  const middle = stack(strands.map((s) => ({ name: s.cause.id, size: thick(s) })));
  const changes = weigh(sums((s) => (s.change ? [s.change] : [])));
  const risks = silent.slice(0, 3);
  const drawn = Math.max(
    bottom(checks),
    bottom(middle),
    bottom(changes) + (risks.length > 0 ? 14 * risks.length + gap : 0),
  );
  const titles = new Map(strands.map((s) => [s.cause.id, s.cause.title]));
  const told = over ? `${over} ${titles.get(over) ?? ""}` : summary(strands, all, silent.length);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${drawn + 4}`}
        className="w-full"
        role="img"
        aria-label={summary(strands, all, silent.length)}
      >
        {strands.map((s, n) => (
          // biome-ignore lint/a11y/noStaticElementInteractions: the list below has the same links for keys
          <g
            key={s.cause.id}
            fill={`var(--tint-${(n % 8) + 1})`}
            opacity={over && over !== s.cause.id ? 0.25 : 1}
            className="cursor-pointer"
            onMouseEnter={() => setOver(s.cause.id)}
            onMouseLeave={() => setOver("")}
            onClick={() => navigate(`/upgrades/${upgrade}/causes/${s.cause.id}`)}
          >
            {s.checks.map((check) => band(checks, check, 1, middle, s.cause.id, 0, thick(s) / s.checks.length, 0))}
            {s.change
              ? band(middle, s.cause.id, 1, changes, s.change, 0, thick(s), 1)
              : open(middle.find((m) => m.name === s.cause.id))}
            {rect(middle, s.cause.id)}
          </g>
        ))}
        {checks.map((c) => (
          <g key={c.name}>
            <rect x={columns[0] ?? 0} y={c.y} width={bar} height={c.height} fill="var(--soft)" />
            <text
              x={(columns[0] ?? 0) - 6}
              y={c.y + c.height / 2 + 4}
              textAnchor="end"
              fontSize="11"
              fill="var(--soft)"
            >
              {cut(c.name, 14)}
            </text>
          </g>
        ))}
        {changes.map((c) => (
          <g key={c.name}>
            <rect x={columns[2] ?? 0} y={c.y} width={bar} height={c.height} fill="var(--soft)" />
            <text x={(columns[2] ?? 0) + 12} y={c.y + c.height / 2 + 4} fontSize="11" fill="var(--soft)">
              {cut(c.name, 17)}
            </text>
          </g>
        ))}
        {risks.map((r, i) => {
          const y = bottom(changes) + gap + 14 * i + 7;
          return (
            <g key={r.change.id}>
              <path
                d={`M${columns[2]} ${y}H${(columns[2] ?? 0) - 60}`}
                stroke="var(--copper)"
                strokeDasharray="2 3"
                strokeWidth="2"
              />
              <text x={(columns[2] ?? 0) + 12} y={y + 4} fontSize="11" fill="var(--copper)">
                {cut(`${r.change.notes}:${r.change.line}`, 17)}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="truncate text-xs text-soft">{told}</figcaption>
    </figure>
  );
}

const sizeOf = (cause: Cause) => Math.max(1, cause.shown + cause.hidden);

function strandOf(cause: Cause): Strand {
  const link = cause.link?.standing === "likely" ? cause.link : undefined;
  return {
    cause,
    size: sizeOf(cause),
    checks: cause.checks.length > 0 ? cause.checks : ["no check"],
    change: link && `${link.change.notes}:${link.change.line}`,
  };
}

/** Nodes one below the other, each as high as its size. */
function stack(list: { name: string; size: number }[]): Node[] {
  let y = 2;
  return list.map(({ name, size }) => {
    const node: Node = { name, y, height: size, used: [0, 0] };
    y += size + gap;
    return node;
  });
}

const bottom = (nodes: Node[]) => nodes.reduce((y, n) => Math.max(y, n.y + n.height), 0);

/** A band between two nodes of neighbouring columns; each node hands out its height from above. */
function band(from: Node[], a: string, right: 0 | 1, to: Node[], b: string, left: 0 | 1, size: number, column: number) {
  const start = from.find((n) => n.name === a);
  const end = to.find((n) => n.name === b);
  if (!start || !end) return null;
  const x0 = (columns[column] ?? 0) + bar;
  const x1 = columns[column + 1] ?? 0;
  const y0 = start.y + start.used[right];
  const y1 = end.y + end.used[left];
  start.used[right] += size;
  end.used[left] += size;
  const mid = (x0 + x1) / 2;
  const d = `M${x0} ${y0}C${mid} ${y0} ${mid} ${y1} ${x1} ${y1}V${y1 + size}C${mid} ${y1 + size} ${mid} ${y0 + size} ${x0} ${y0 + size}Z`;
  return <path key={`${a} ${b}`} d={d} fillOpacity="0.45" />;
}

/** What no note explains ends in the open. */
function open(node: Node | undefined) {
  if (!node) return null;
  const x = (columns[1] ?? 0) + bar;
  return (
    <path d={`M${x} ${node.y}L${x + 46} ${node.y + node.height / 2}L${x} ${node.y + node.height}Z`} fillOpacity="0.3" />
  );
}

function rect(nodes: Node[], name: string) {
  const node = nodes.find((n) => n.name === name);
  return node && <rect x={columns[1] ?? 0} y={node.y} width={bar} height={node.height} />;
}

/** A long label cut in the middle: its end, a line's number, is kept. */
function cut(text: string, length: number) {
  if (text.length <= length) return text;
  const end = Math.max(4, text.length - text.lastIndexOf(":"));
  const kept = end > length / 2 ? 4 : end;
  return `${text.slice(0, length - kept - 1)}…${text.slice(-kept)}`;
}

function summary(strands: Strand[], all: number, silent: number) {
  const n = strands.reduce((sum, s) => sum + s.size, 0);
  const explained = strands.filter((s) => s.change).length;
  const which =
    strands.length < all
      ? `the ${strands.length} largest of ${all} causes`
      : `${strands.length} ${strands.length === 1 ? "cause" : "causes"}`;
  return `${which} with ${n} ${n === 1 ? "symptom" : "symptoms"}, ${explained} explained by the notes${silent > 0 ? `; ${silent} silent` : ""}`;
}
