import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { type ChangeWord, useSayOfChange } from "../api/acts";
import type { ChangeDetail as Detail } from "../api/client";
import { useChange } from "../api/queries";
import { Skeleton, Trouble } from "./basics";
import { CorrectChange } from "./CorrectChange";
import { PatchView } from "./PatchView";

/** What a person may say of a change, with the key that opens it. */
export const words = [
  { state: "handled", name: "Handled", key: "h" },
  { state: "later", name: "Later", key: "l" },
  { state: "not-used", name: "Not used", key: "n" },
  { state: "", name: "Leave it to the evidence", key: "e" },
] as const;
export type Word = (typeof words)[number]["state"];

interface Props {
  upgrade: number;
  id: string;
  saying: Word | null;
  setSaying: (word: Word | null) => void;
  patching: boolean;
  setPatching: (open: boolean) => void;
}

/** The places that a change touches, its patch, and what people say of it. */
export function ChangeDetail({ upgrade, id, saying, setSaying, patching, setPatching }: Props) {
  const detail = useChange(upgrade, id);
  const say = useSayOfChange(upgrade, id);
  const [correcting, setCorrecting] = useState(false);
  if (detail.error) return <Trouble error={detail.error} retry={() => detail.refetch()} />;
  if (!detail.data) return <Skeleton rows={3} />;
  const { row } = detail.data;
  return (
    <div className="space-y-3 border-l-2 border-copper py-1 pl-3" data-detail={id}>
      <Facts upgrade={upgrade} detail={detail.data} />
      <Places detail={detail.data} />
      <fieldset className="no-print flex flex-wrap gap-1">
        <legend className="sr-only">What is this change to the code?</legend>
        {words
          .filter((w) => w.state !== "" || row.reason)
          .map((w) => (
            <button
              key={w.state}
              type="button"
              data-word={w.state}
              aria-expanded={saying === w.state}
              onClick={() => setSaying(saying === w.state ? null : w.state)}
              className="moves rounded border border-line px-2 py-0.5 text-sm hover:border-copper"
            >
              {w.name}
            </button>
          ))}
        <button
          type="button"
          aria-expanded={correcting}
          onClick={() => setCorrecting(!correcting)}
          className="moves rounded border border-line px-2 py-0.5 text-sm hover:border-copper"
        >
          Read wrongly
        </button>
        {row.places > 0 && (
          <button
            type="button"
            aria-expanded={patching}
            onClick={() => setPatching(!patching)}
            className="moves rounded border border-line px-2 py-0.5 text-sm hover:border-copper"
          >
            Patch
          </button>
        )}
      </fieldset>
      {saying !== null && (
        <Reason
          key={saying}
          asks={words.find((w) => w.state === saying)?.name ?? ""}
          busy={say.isPending}
          error={say.error?.message}
          onDone={(reason) =>
            say.mutate({ state: saying as ChangeWord["state"], reason }, { onSuccess: () => setSaying(null) })
          }
          onCancel={() => setSaying(null)}
        />
      )}
      {correcting && <CorrectChange upgrade={upgrade} change={row.change} onDone={() => setCorrecting(false)} />}
      {patching && <PatchView upgrade={upgrade} change={id} />}
      <ul className="space-y-1 text-xs">
        {detail.data.words.map((w) => (
          <li key={w.at}>
            <b>
              {[w.state, w.kind, ...(w.renames ?? []).map((r) => `${r.from} → ${r.to}`)].filter(Boolean).join(", ") ||
                "taken back"}
            </b>
            : {w.reason} <span className="text-soft">{w.author}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Facts({ upgrade, detail }: { upgrade: number; detail: Detail }) {
  const { row } = detail;
  return (
    <div className="space-y-1 text-xs text-soft">
      {row.change.renames.map((r) => (
        <p key={r.from} className="font-mono text-ink">
          {r.from} <span className="text-copper">→</span> {r.to}
        </p>
      ))}
      {row.requires.map((m) => (
        <p key={m.name}>
          asks for {m.name} {m.least ? `${m.least} or newer` : `above ${m.above}`}
        </p>
      ))}
      {row.causes.length > 0 && (
        <p>
          explains{" "}
          {row.causes.map((c) => (
            <Link
              key={c}
              to={`/upgrades/${upgrade}/causes/${c}`}
              className="mr-2 font-mono text-copper hover:underline"
            >
              {c}
            </Link>
          ))}
        </p>
      )}
      {!row.candidate && <p>Its version lies outside of what moves: it explains nothing here.</p>}
    </div>
  );
}

const certainty = (sure: number) => (sure >= 1 ? "certain" : sure >= 0.7 ? "likely" : sure >= 0.5 ? "perhaps" : "said");

/** The kinds of changes that leave an old name behind. */
const leaves = new Set(["removed", "renamed", "moved", "deprecated"]);

function Places({ detail }: { detail: Detail }) {
  const { row, at, searched, waits } = detail;
  if (at.length === 0) {
    return (
      <p className="text-xs text-soft">
        {waits
          ? "It has not been looked for in the code yet: the next run with its source does."
          : searched.length > 0
            ? `Looked for ${searched.join(", ")}: nothing of it stands in the code.`
            : "Its words name nothing that could be looked for: read it, and say what it is."}
      </p>
    );
  }
  const more = row.places + row.said - at.length;
  return (
    <details open={at.length <= 8}>
      <summary className="cursor-pointer text-xs text-soft">
        {row.state === "handled" && leaves.has(row.change.kind) && "Left behind, perhaps: "}
        {row.places > 0 &&
          `${row.places} ${row.places === 1 ? "place" : "places"} in ${row.files} ${row.files === 1 ? "file" : "files"}`}
        {row.said > 0 && `${row.places > 0 ? ", and " : ""}${row.said} in comments or documents`}
      </summary>
      <ul className="mt-1 space-y-1">
        {at.map((p) => (
          <li key={`${p.file}:${p.line}:${p.column}`} className="min-w-0">
            <span className="font-mono text-xs text-copper">
              {p.file}:{p.line}
            </span>{" "}
            <span className="text-xs text-soft">
              {certainty(p.sure)}
              {p.zone !== "code" && `, ${p.zone}`}
            </span>
            <code className="block truncate text-xs" title={p.text}>
              {p.text.trim()}
            </code>
          </li>
        ))}
      </ul>
      {more > 0 && <p className="text-xs text-soft">and {more} more</p>}
    </details>
  );
}

interface ReasonProps {
  asks: string;
  busy: boolean;
  error?: string;
  onDone: (reason: string) => void;
  onCancel: () => void;
}

function Reason({ asks, busy, error, onDone, onCancel }: ReasonProps) {
  const [reason, setReason] = useState("");
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (reason.trim()) onDone(reason);
  };
  return (
    <form
      onSubmit={submit}
      onKeyDown={(e) => e.key === "Escape" && onCancel()}
      className="flex flex-wrap items-center gap-2"
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: a key or a button has just asked for it
        autoFocus
        required
        name="reason"
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        placeholder={`${asks}: why?`}
        aria-label={`${asks}: why?`}
        className="min-w-48 flex-1 rounded border border-line bg-sheet px-2 py-0.5"
      />
      <button type="submit" disabled={busy} className="rounded bg-copper px-3 py-0.5 text-paper">
        Say so
      </button>
      {error && (
        <span role="alert" className="text-xs text-alarm">
          {error}
        </span>
      )}
    </form>
  );
}
