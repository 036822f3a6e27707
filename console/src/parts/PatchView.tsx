import { useState } from "react";
import { usePatch } from "../api/queries";
import { CopyButton, Skeleton, Trouble } from "./basics";

const place = (e: { file: string; line: number; column: number }) => `${e.file}:${e.line}:${e.column}`;

/** The patch of a change, place by place, for review and for git apply. */
export function PatchView({ upgrade, change }: { upgrade: number; change: string }) {
  const whole = usePatch(upgrade, change, []);
  const [left, setLeft] = useState<Set<string>>(new Set());
  const only = whole.data && left.size > 0 ? whole.data.edits.map(place).filter((p) => !left.has(p)) : [];
  const chosen = usePatch(upgrade, change, only);
  if (whole.error) return <Trouble error={whole.error} retry={() => whole.refetch()} />;
  if (!whole.data) return <Skeleton rows={4} />;
  const { edits, refused, why, care } = whole.data;
  if (edits.length === 0) {
    return (
      <div className="text-xs text-soft">
        <p>There is no patch: {why}.</p>
        <Refused list={refused} />
      </div>
    );
  }
  const toggle = (places: string[], take: boolean) => {
    const next = new Set(left);
    for (const p of places) {
      if (take) next.delete(p);
      else next.add(p);
    }
    setLeft(next);
  };
  const files = [...new Set(edits.map((e) => e.file))];
  const diff = left.size === edits.length ? "" : (chosen.data?.diff ?? "");
  return (
    <div className="space-y-2 text-xs" data-patch={change}>
      {care && <p className="border-l-2 border-amber pl-2">Take care: {care}.</p>}
      {files.map((file) => {
        const own = edits.filter((e) => e.file === file);
        return (
          <div key={file}>
            <label className="flex items-center gap-2 font-mono">
              <input
                type="checkbox"
                checked={own.every((e) => !left.has(place(e)))}
                onChange={(e) => toggle(own.map(place), e.target.checked)}
              />
              {file}
            </label>
            <div className="ml-6 flex flex-wrap gap-x-4">
              {own.map((e) => (
                <label key={place(e)} className="flex items-center gap-1 text-soft">
                  <input
                    type="checkbox"
                    checked={!left.has(place(e))}
                    onChange={(c) => toggle([place(e)], c.target.checked)}
                  />
                  line {e.line}
                </label>
              ))}
            </div>
          </div>
        );
      })}
      <Refused list={refused} />
      {diff && (
        <div className="relative">
          <span className="absolute right-1 top-1">
            <CopyButton text={diff} label="Copy the diff" />
          </span>
          <pre className="max-h-80 overflow-auto rounded border border-line bg-sheet p-2 leading-relaxed">
            {diff.split("\n").map((line, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name
              <span key={i} className={`block ${toneOf(line)}`}>
                {line || " "}
              </span>
            ))}
          </pre>
        </div>
      )}
    </div>
  );
}

function toneOf(line: string) {
  if (line.startsWith("+++") || line.startsWith("---") || line.startsWith("@@")) return "text-soft";
  if (line.startsWith("+")) return "text-calm";
  return line.startsWith("-") ? "text-alarm" : "";
}

function Refused({ list }: { list: { file: string; line: number; column: number; name: string; why: string }[] }) {
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
