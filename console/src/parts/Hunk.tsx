import { Link } from "react-router";
import type { ReviewHunk } from "../api/edits";

/** A run of changed lines, what asks for it, and what to look at. */
export function Hunk({ upgrade, hunk }: { upgrade: number; hunk: ReviewHunk }) {
  const gone = hunk.added.length === 0 && hunk.removed.length > 0;
  return (
    <li className="rounded border border-line bg-sheet" data-hunk={hunk.standing}>
      <div className="flex flex-wrap items-baseline gap-x-3 px-3 py-1.5 text-sm">
        <span className="font-mono text-xs text-copper">
          {hunk.was && `${hunk.was} → `}
          {hunk.file}:{gone ? hunk.oldLine : hunk.line}
        </span>
        {hunk.notices.map((n) => (
          <span key={n.text} className="font-semibold text-alarm">
            {n.text}
          </span>
        ))}
        <span className="text-xs text-soft">
          {hunk.why} <Asker upgrade={upgrade} hunk={hunk} />
        </span>
      </div>
      {hunk.removed.length + hunk.added.length > 0 && (
        <pre // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, and the keyboard has to reach it
          tabIndex={0}
          className="max-h-72 overflow-auto border-t border-line px-3 py-1.5 text-xs leading-relaxed"
        >
          <Lines sign=" " lines={hunk.before} tone="text-soft" />
          <Lines sign="-" lines={hunk.removed} tone="text-alarm" />
          <Lines sign="+" lines={hunk.added} tone="text-calm" />
          <Lines sign=" " lines={hunk.behind} tone="text-soft" />
        </pre>
      )}
    </li>
  );
}

function Lines({ sign, lines, tone }: { sign: string; lines: string[]; tone: string }) {
  return lines.map((line, i) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name
    <span key={i} className={`block ${tone}`}>
      {sign} {line}
    </span>
  ));
}

/** The cause and the entry that ask for a hunk first. */
function Asker({ upgrade, hunk }: { upgrade: number; hunk: ReviewHunk }) {
  const cause = hunk.asks.find((a) => a.cause)?.cause;
  const change = hunk.asks.find((a) => a.change);
  return (
    <>
      {cause && (
        <Link to={`/upgrades/${upgrade}/causes/${cause}`} className="mr-2 font-mono text-copper hover:underline">
          {cause}
        </Link>
      )}
      {change && (
        <Link
          to={`/upgrades/${upgrade}/notes?change=${change.change}`}
          title={change.title}
          className="font-mono text-copper hover:underline"
        >
          {change.at}
        </Link>
      )}
    </>
  );
}
