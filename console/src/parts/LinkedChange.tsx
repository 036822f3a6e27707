import { Check, X } from "lucide-react";
import { Link as Anchor } from "react-router";
import type { useJudgeLink } from "../api/acts";
import type { Link } from "../api/client";
import { useNotesLines } from "../api/queries";
import { Evidence } from "./Evidence";

interface Props {
  upgrade: number;
  link: Link;
  folded?: boolean;
  judge: ReturnType<typeof useJudgeLink>;
}

/** A change as its note shows it, with the evidence and what people say of it. */
export function LinkedChange({ upgrade, link, folded, judge }: Props) {
  const { change, state } = link;
  const place = `${change.notes}:${change.line}`;
  const anchor = (
    <Anchor
      to={`/upgrades/${upgrade}/notes?change=${change.id}`}
      className="font-mono text-xs text-copper hover:underline"
    >
      {folded ? "among the notes" : place}
    </Anchor>
  );
  const head = (
    <>
      {folded ? <span className="font-mono text-xs">{place}</span> : anchor}{" "}
      <span className="text-xs text-soft">
        {[change.kind, change.version].filter(Boolean).join(" ")} · {certainty(link)}
      </span>
    </>
  );
  if (folded) {
    return (
      <details className="mt-3 border-t border-line pt-2">
        <summary className="cursor-pointer">
          {head} <Judged state={state} />
        </summary>
        {anchor}
        <Body upgrade={upgrade} link={link} judge={judge} />
      </details>
    );
  }
  return (
    <article className="min-w-0" data-link={change.id} data-state={state}>
      <p className="flex flex-wrap items-baseline gap-x-2">
        {head}
        <Judged state={state} />
      </p>
      <Body upgrade={upgrade} link={link} judge={judge} />
    </article>
  );
}

function Judged({ state }: { state: Link["state"] }) {
  if (state === "proposed") return null;
  return (
    <span className={`inline-flex items-center gap-1 text-xs ${state === "confirmed" ? "text-calm" : "text-soft"}`}>
      {state === "confirmed" ? (
        <Check className="size-3" aria-hidden="true" />
      ) : (
        <X className="size-3" aria-hidden="true" />
      )}
      {state}
    </span>
  );
}

function Body({ upgrade, link, judge }: Omit<Props, "folded">) {
  const { change, state } = link;
  const lines = useNotesLines(upgrade, change.notesId, change.line, Math.min(change.end - change.line + 1, 60));
  const say = (next: Link["state"]) =>
    judge.mutate({ change: change.id, state: next === state ? "proposed" : next, was: state });
  return (
    <div className="mt-1 space-y-3">
      <pre className="whitespace-pre-wrap [overflow-wrap:anywhere] border-l-2 border-line bg-sheet py-2 pl-3 pr-2 text-xs leading-relaxed">
        {lines.data?.lines.map((text, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name
          <span key={i} className="block whitespace-pre-wrap">
            {text || " "}
          </span>
        )) ?? change.title}
      </pre>
      <Evidence because={link.because} />
      <div className="no-print flex items-center gap-2">
        <Say active={state === "confirmed"} onClick={() => say("confirmed")} name="confirm" busy={judge.isPending}>
          <Check className="size-3.5" aria-hidden="true" />
          {state === "confirmed" ? "Confirmed" : "Confirm"}
        </Say>
        <Say active={state === "rejected"} onClick={() => say("rejected")} name="reject" busy={judge.isPending}>
          <X className="size-3.5" aria-hidden="true" />
          {state === "rejected" ? "Rejected" : "Reject"}
        </Say>
        {judge.error && (
          <span role="alert" className="text-xs text-alarm">
            {judge.error.message}
          </span>
        )}
      </div>
    </div>
  );
}

function Say(props: { active: boolean; busy: boolean; name: string; onClick: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      data-say={props.name}
      aria-pressed={props.active}
      disabled={props.busy}
      onClick={props.onClick}
      className={`moves inline-flex items-center gap-1 rounded border px-2 py-0.5 text-sm ${
        props.active ? "border-copper text-copper" : "border-line hover:border-copper"
      }`}
    >
      {props.children}
    </button>
  );
}

/** A link's standing and score in words. */
function certainty({ standing, score }: Link) {
  return `${standing === "likely" ? "likely" : "perhaps"}, ${Math.round(score * 100)} %`;
}
