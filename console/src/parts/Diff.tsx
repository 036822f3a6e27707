import type { components } from "../api/schema.gen";
import { CopyButton } from "./basics";

type Edit = components["schemas"]["PatchEdit"];

/** A place as the service takes it: file, line and column. */
export const place = (e: { file: string; line: number; column: number }) => `${e.file}:${e.line}:${e.column}`;

/** Why a place is taken, and what the holes of the edit stand for there. */
export function why(e: Edit) {
  return [e.why, ...e.took.map((t, i) => `‹${i + 1}› is ${t}`)].join("\n");
}

/** A unified diff, to read and to copy. */
export function Diff({ text }: { text: string }) {
  return (
    <div className="relative">
      <span className="absolute right-1 top-1">
        <CopyButton text={text} label="Copy the diff" />
      </span>
      <pre // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, and the keyboard has to reach it
        tabIndex={0}
        className="max-h-80 overflow-auto rounded border border-line bg-sheet p-2 leading-relaxed"
      >
        {text.split("\n").map((line, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name
          <span key={i} className={`block ${toneOf(line)}`}>
            {line || " "}
          </span>
        ))}
      </pre>
    </div>
  );
}

function toneOf(line: string) {
  if (line.startsWith("+++") || line.startsWith("---") || line.startsWith("@@")) return "text-soft";
  if (line.startsWith("+")) return "text-calm";
  return line.startsWith("-") ? "text-alarm" : "";
}

export function Refused({
  list,
}: {
  list: { file: string; line: number; column: number; name: string; why: string }[];
}) {
  if (list.length === 0) return null;
  return (
    <details>
      <summary className="cursor-pointer text-soft">
        {list.length} {list.length === 1 ? "place is" : "places are"} left alone
      </summary>
      <ul className="mt-1 space-y-0.5">
        {list.map((r) => (
          <li key={place(r)}>
            <span className="font-mono text-copper">
              {r.file}:{r.line}
            </span>{" "}
            <span className="text-soft">{r.why}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
