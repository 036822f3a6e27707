import { useState } from "react";
import { usePatch, usePatchByExample } from "../api/edits";
import { Skeleton, Trouble } from "./basics";
import { Diff, place, Refused, why } from "./Diff";
import { ExampleForm } from "./ExampleForm";

/** The patch of a change, place by place, for review and for git apply. */
export function PatchView({ upgrade, change }: { upgrade: number; change: string }) {
  const whole = usePatch(upgrade, change, []);
  const [left, setLeft] = useState<Set<string>>(new Set());
  const only = whole.data && left.size > 0 ? whole.data.edits.map(place).filter((p) => !left.has(p)) : [];
  const chosen = usePatch(upgrade, change, only);
  if (whole.error) return <Trouble error={whole.error} retry={() => whole.refetch()} />;
  if (!whole.data) return <Skeleton rows={4} />;
  const { edits, moves, refused, why: none, care } = whole.data;
  const head = <Templates upgrade={upgrade} change={change} list={whole.data.templates} kept={whole.data.kept} />;
  if (edits.length + moves.length === 0) {
    return (
      <div className="space-y-2 text-xs text-soft" data-patch={change}>
        {head}
        <p>There is no patch: {none}.</p>
        <Refused list={refused} />
        <ExampleForm upgrade={upgrade} change={change} />
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
      {head}
      {moves.map((m) => (
        <p key={m.from} className="font-mono">
          {m.from} <span className="text-copper">→</span> {m.to}
        </p>
      ))}
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
                  <span title={why(e)}>line {e.line}</span>
                </label>
              ))}
            </div>
          </div>
        );
      })}
      <Refused list={refused} />
      {diff && <Diff text={diff} />}
      <ExampleForm upgrade={upgrade} change={change} />
    </div>
  );
}

/** What the edits were learnt to be. */
function Templates({
  upgrade,
  change,
  list,
  kept,
}: {
  upgrade: number;
  change: string;
  list: string[];
  kept: boolean;
}) {
  const forget = usePatchByExample(upgrade, change);
  if (list.length === 0) return null;
  return (
    <div>
      {list.map((t) => (
        <p key={t} className="font-mono text-ink [overflow-wrap:anywhere]">
          {t}
        </p>
      ))}
      {kept && (
        <p className="text-soft">
          Learnt from examples, kept in the casebook.{" "}
          <button
            type="button"
            className="text-copper underline underline-offset-2"
            onClick={() => forget.mutate({ examples: [], keep: true })}
          >
            Go by the notes again
          </button>
        </p>
      )}
    </div>
  );
}
