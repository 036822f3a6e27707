import { type FormEvent, useEffect, useRef, useState } from "react";
import { type DecisionKind, useDecide, useUndoDecision } from "../api/acts";
import type { CauseDetail, Decision } from "../api/client";
import { Heading } from "./basics";
import { FormEnd } from "./FormEnd";

export const decisions: { kind: DecisionKind; name: string; asks: string; due: boolean }[] = [
  { kind: "fix", name: "Fix", asks: "What was done? Runs will prove or disprove it.", due: false },
  { kind: "defer", name: "Defer", asks: "Why later?", due: true },
  { kind: "accept", name: "Accept", asks: "Why is the new behaviour fine?", due: false },
  { kind: "wait", name: "Wait", asks: "For whose release?", due: true },
  { kind: "dismiss", name: "Dismiss", asks: "Why is it none of ours?", due: false },
];

interface Props {
  upgrade: number;
  detail: CauseDetail;
  deciding: DecisionKind | null;
  setDeciding: (kind: DecisionKind | null) => void;
}

/** What becomes of the cause, and what was decided before. */
export function DecisionBar({ upgrade, detail, deciding, setDeciding }: Props) {
  const decide = useDecide(upgrade, detail.cause.id);
  const undo = useUndoDecision(upgrade);
  const standing = detail.decisions.find((d) => !d.undone);
  const chosen = decisions.find((k) => k.kind === deciding);
  return (
    <div>
      <Heading>Decision</Heading>
      <fieldset className="no-print flex flex-wrap gap-2">
        <legend className="sr-only">What becomes of this cause</legend>
        {decisions.map((k) => (
          <button
            key={k.kind}
            type="button"
            data-decide={k.kind}
            aria-pressed={deciding === k.kind}
            onClick={() => setDeciding(deciding === k.kind ? null : k.kind)}
            className={`moves rounded border px-2 py-0.5 text-sm ${deciding === k.kind ? "border-copper text-copper" : "border-line hover:border-copper"}`}
          >
            {k.name}
          </button>
        ))}
      </fieldset>
      {chosen && (
        <DecisionForm
          key={chosen.kind}
          {...chosen}
          busy={decide.isPending}
          error={decide.error?.message}
          workaround={chosen.due}
          onDone={(reason, due, file, code) =>
            decide.mutate(
              { kind: chosen.kind, reason, due, file, code, seen: detail.decisions[0]?.id ?? 0 },
              { onSuccess: () => setDeciding(null) },
            )
          }
          onCancel={() => setDeciding(null)}
        />
      )}
      <ul className="mt-3 space-y-2">
        {detail.decisions.map((d) => (
          <Made
            key={d.id}
            decision={d}
            current={d.id === standing?.id}
            undo={undo.isPending ? undefined : () => undo.mutate(d.id)}
          />
        ))}
      </ul>
      {undo.error && (
        <p role="alert" className="text-xs text-alarm">
          {undo.error.message}
        </p>
      )}
    </div>
  );
}

function Made({ decision, current, undo }: { decision: Decision; current: boolean; undo?: () => void }) {
  return (
    <li className={current ? "" : `text-soft ${decision.undone ? "line-through" : ""}`}>
      <span className="font-semibold">{decision.kind}</span>
      {decision.outcome && (
        <span className={decision.outcome === "disproved" ? "text-alarm" : "text-soft"}>
          {" "}
          {decision.outcome}
          {decision.outcomeRun ? ` by run ${decision.outcomeRun}` : ""}
        </span>
      )}
      : {decision.reason}
      {decision.due && <span> · due {decision.due}</span>}
      <span className="block text-xs text-soft">
        {decision.author}, after run {decision.afterRun}
        {decision.commit && ` · ${decision.commit.slice(0, 9)}`}{" "}
        {current && (
          <button
            type="button"
            data-act="undo-decision"
            disabled={!undo}
            onClick={undo}
            className="no-print text-copper underline underline-offset-2"
          >
            Undo
          </button>
        )}
      </span>
    </li>
  );
}

interface FormProps {
  asks: string;
  due: boolean;
  workaround?: boolean;
  busy: boolean;
  error?: string;
  onDone: (reason: string, due: string, file?: string, code?: string) => void;
  onCancel: () => void;
}

/** Asks for the reason of a decision. */
export function DecisionForm({ asks, due, workaround, busy, error, onDone, onCancel }: FormProps) {
  const [reason, setReason] = useState("");
  const [when, setWhen] = useState("");
  const [file, setFile] = useState("");
  const [code, setCode] = useState("");
  const field = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    // The key that opened the form must not be typed into it.
    const soon = setTimeout(() => field.current?.focus(), 50);
    return () => clearTimeout(soon);
  }, []);
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (reason.trim()) onDone(reason, when, code ? file : undefined, code || undefined);
  };
  return (
    <form onSubmit={submit} onKeyDown={(e) => e.key === "Escape" && onCancel()} className="mt-3 space-y-2">
      <label className="block">
        <span className="text-soft">{asks}</span>
        <textarea
          ref={field}
          required
          rows={2}
          name="reason"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          className="mt-1 w-full rounded border border-line bg-sheet px-2 py-1"
        />
      </label>
      {due && (
        <label className="block">
          <span className="text-soft">Look again at which date, or package and version (jar 6.0.0)?</span>
          <input
            name="due"
            required={code !== ""}
            value={when}
            onChange={(e) => setWhen(e.target.value)}
            className="mt-1 w-full rounded border border-line bg-sheet px-2 py-1"
          />
        </label>
      )}
      {workaround && (
        <details>
          <summary className="cursor-pointer text-xs text-soft">A workaround keeps it going until then</summary>
          <input
            name="file"
            placeholder="file that it lives in"
            value={file}
            onChange={(e) => setFile(e.target.value)}
            className="mt-1 w-full rounded border border-line bg-sheet px-2 py-1"
          />
          <textarea
            name="code"
            rows={3}
            placeholder="its lines as they stand: it will be found by them"
            value={code}
            onChange={(e) => setCode(e.target.value)}
            className="mt-1 w-full rounded border border-line bg-sheet px-2 py-1 font-mono text-xs"
          />
        </details>
      )}
      <FormEnd act="Decide" busy={busy} error={error} onCancel={onCancel} />
    </form>
  );
}
