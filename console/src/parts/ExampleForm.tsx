import { type FormEvent, useState } from "react";
import { type Example, usePatchByExample } from "../api/edits";
import { Diff, Refused, why } from "./Diff";

/** Shows the service an edit by code before and after: what it would do everywhere, and keeps it. */
export function ExampleForm({ upgrade, change }: { upgrade: number; change: string }) {
  const [examples, setExamples] = useState<Example[]>([]);
  const learn = usePatchByExample(upgrade, change);
  const patch = learn.data;
  if (examples.length === 0) {
    return (
      <button
        type="button"
        data-example
        className="moves rounded border border-line px-2 py-0.5 text-sm text-ink hover:border-copper"
        onClick={() => setExamples([{ from: "", to: "" }])}
      >
        By an example
      </button>
    );
  }
  const show = (e: FormEvent) => {
    e.preventDefault();
    learn.mutate({ examples, keep: false });
  };
  const write = (i: number, side: keyof Example, text: string) =>
    setExamples(examples.map((e, k) => (k === i ? { ...e, [side]: text } : e)));
  return (
    <form onSubmit={show} className="space-y-2 border-t border-line pt-2 text-ink" data-examples>
      <p className="text-soft">
        Show the edit once: what both sides have may be anything then. A second example narrows that to what differs
        between them.
      </p>
      {examples.map((e, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: examples have no other name
        <div key={i} className="grid gap-2 sm:grid-cols-2">
          {(["from", "to"] as const).map((side) => (
            <textarea
              key={side}
              required
              rows={2}
              name={`${side}${i}`}
              value={e[side]}
              onChange={(c) => write(i, side, c.target.value)}
              placeholder={side === "from" ? "Code before" : "Code after"}
              aria-label={`Example ${i + 1}: code ${side === "from" ? "before" : "after"}`}
              className="w-full rounded border border-line bg-sheet px-2 py-1 font-mono"
            />
          ))}
        </div>
      ))}
      <div className="flex flex-wrap gap-2 text-sm">
        <button type="submit" disabled={learn.isPending} className="rounded bg-copper px-3 py-0.5 text-paper">
          Show the patch
        </button>
        <button
          type="button"
          className="moves rounded border border-line px-2 py-0.5 hover:border-copper"
          onClick={() => setExamples([...examples, { from: "", to: "" }])}
        >
          Second example
        </button>
        {patch && patch.edits.length > 0 && (
          <button
            type="button"
            data-keep
            disabled={learn.isPending}
            className="moves rounded border border-line px-2 py-0.5 hover:border-copper"
            onClick={() => learn.mutate({ examples, keep: true }, { onSuccess: () => setExamples([]) })}
          >
            Keep it for this change
          </button>
        )}
      </div>
      {learn.error && (
        <p role="alert" className="text-alarm">
          {learn.error.message}
        </p>
      )}
      {patch && (
        <div className="space-y-2" data-learnt>
          <p className="font-mono [overflow-wrap:anywhere]">{patch.templates.join("; ")}</p>
          {patch.why && <p className="text-soft">There is no patch: {patch.why}.</p>}
          {patch.care && <p className="border-l-2 border-amber pl-2">Take care: {patch.care}.</p>}
          <ul className="space-y-0.5">
            {patch.edits.map((e) => (
              <li key={`${e.file}:${e.line}:${e.column}`}>
                <span className="font-mono text-copper">
                  {e.file}:{e.line}
                </span>{" "}
                <span className="text-soft">{why(e).replaceAll("\n", " · ")}</span>
              </li>
            ))}
          </ul>
          <Refused list={patch.refused} />
          {patch.diff && <Diff text={patch.diff} />}
        </div>
      )}
    </form>
  );
}
