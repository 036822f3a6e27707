import { useState } from "react";
import { useNavigate } from "react-router";
import type { Cause, HistoryPoint } from "../api/client";

const width = 560;
const height = 200;
const named = 12; // causes that are drawn by themselves, the largest; the rest is one band
const rest = "the others";
const base = height - 34;

/** Warm tints that neighbours in the stack tell apart. */
const tints = Array.from({ length: 8 }, (_, i) => `var(--tint-${i + 1})`);

interface Props {
  upgrade: number;
  history: HistoryPoint[];
  causes: Cause[];
}

/** Symptoms after each run, stacked by cause; commits mark where the source changed. */
export function HistoryChart({ upgrade, history, causes }: Props) {
  const [over, setOver] = useState<{ cause: string; run: number } | null>(null);
  const navigate = useNavigate();
  if (history.length === 0) {
    return <p className="text-soft">Nothing to draw before the first run after the bump.</p>;
  }
  // The runs of earlier legs have causes of their own.
  const { order, points } = folded(history);
  const totals = history.map((h) => Object.values(h.causes).reduce((a, b) => a + b, 0));
  const top = niceTop(Math.max(...totals, 1));
  const left = 14 + 7 * String(top).length;
  const step = (width - left) / history.length;
  const bar = Math.max(2, Math.min(step * 0.8, 36));
  const y = (n: number) => base - (n / top) * (base - 8);
  const shown = over && causes.find((c) => c.id === over.cause);
  const point = over && history.find((h) => h.run === over.run);
  const labelled = labels(history, step);
  return (
    <figure>
      <svg viewBox={`0 0 ${width} ${height}`} className="w-full" role="img" aria-label={summary(history, totals)}>
        {[0, top / 2, top].map((n) => (
          <g key={n}>
            <line x1={left} x2={width} y1={y(n)} y2={y(n)} stroke="var(--line)" />
            <text x={left - 6} y={y(n) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
              {n}
            </text>
          </g>
        ))}
        {history.map((h, i) => {
          const x = left + i * step + (step - bar) / 2;
          let sum = 0;
          return (
            <g key={h.run}>
              {commitStarts(history, i) && (
                <line
                  x1={left + i * step}
                  x2={left + i * step}
                  y1={8}
                  y2={base + 6}
                  stroke="var(--soft)"
                  strokeDasharray="1 3"
                />
              )}
              {order.map((id, n) => {
                const count = points[i]?.get(id) ?? 0;
                if (count === 0) return null;
                const from = sum;
                sum += count;
                const dim = over !== null && over.cause !== id;
                return (
                  // biome-ignore lint/a11y/noStaticElementInteractions: the same
                  <rect
                    key={id}
                    x={x}
                    y={y(sum)}
                    width={bar}
                    height={Math.max(0.5, y(from) - y(sum) - 0.5)}
                    fill={id === rest ? "var(--soft)" : tints[n % tints.length]}
                    opacity={dim ? 0.25 : 1}
                    className="moves cursor-pointer"
                    onPointerEnter={() => setOver({ cause: id, run: h.run })}
                    onPointerLeave={() => setOver(null)}
                    onClick={() => navigate(`/upgrades/${upgrade}/causes${id === rest ? "" : `/${id}`}`)}
                  />
                );
              })}
              {labelled.has(i) && (
                <text x={left + i * step + 4} y={base + 16} fontSize="11" fill="var(--soft)" className="font-mono">
                  {h.commit.slice(0, 7)}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <figcaption className="h-5 truncate text-xs text-soft">
        {shown && point
          ? `${shown.id} ${shown.title}: ${point.causes[shown.id]} after run ${point.run} of ${point.check}, ${point.subject}`
          : summary(history, totals)}
      </figcaption>
    </figure>
  );
}

/** The counts by run, with all but the largest causes as one; the largest stand in the order of their numbers. */
function folded(history: HistoryPoint[]) {
  const sums = new Map<string, number>();
  for (const h of history) {
    for (const [id, n] of Object.entries(h.causes)) sums.set(id, (sums.get(id) ?? 0) + n);
  }
  const largest = [...sums].sort((a, b) => b[1] - a[1]).map(([id]) => id);
  const kept = new Set(largest.length > named + 1 ? largest.slice(0, named) : largest);
  const order = [...kept].sort((a, b) => Number(a.slice(1)) - Number(b.slice(1)));
  const points = history.map((h) => {
    const point = new Map<string, number>();
    for (const [id, n] of Object.entries(h.causes)) {
      const of = kept.has(id) ? id : rest;
      point.set(of, (point.get(of) ?? 0) + n);
    }
    return point;
  });
  return { order: kept.size < largest.length ? [...order, rest] : order, points };
}

/** The runs whose commit is written below them: as many as have room. */
function labels(history: HistoryPoint[], step: number) {
  const room = 58;
  const kept = new Set<number>();
  let free = 0;
  for (let i = 0; i < history.length; i++) {
    if (!commitStarts(history, i) || i * step < free) continue;
    kept.add(i);
    free = i * step + room;
  }
  return kept;
}

function commitStarts(history: HistoryPoint[], i: number) {
  return i === 0 || history[i]?.commit !== history[i - 1]?.commit;
}

function summary(history: HistoryPoint[], totals: number[]) {
  const most = Math.max(...totals);
  return `${history.length} ${history.length === 1 ? "run" : "runs"} since the bump: ${most} symptoms at most, ${totals.at(-1)} after the last`;
}

/** The next round number that two grid lines divide well. */
function niceTop(n: number) {
  const unit = 10 ** Math.floor(Math.log10(n));
  for (const m of [1, 2, 4, 6, 8, 10]) if (m * unit >= n && (m * unit) % 2 === 0) return m * unit;
  return Math.ceil(n / 2) * 2;
}
