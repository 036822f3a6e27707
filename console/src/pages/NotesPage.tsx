import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import type { ChangeRow } from "../api/client";
import { useLive } from "../api/live";
import { useChanges, useHead, useNotes } from "../api/queries";
import { AddChange } from "../parts/AddChange";
import { AddNotes } from "../parts/AddNotes";
import { Skeleton, Trouble } from "../parts/basics";
import { ChangeDetail, type Word } from "../parts/ChangeDetail";
import { ChangeMark, lookOf, stateOf, states } from "../parts/changeState";
import { useKeys } from "../parts/keys";
import { NotesView } from "../parts/NotesView";
import { Offer } from "../parts/Offer";
import { Pick } from "../parts/Pick";

/** The notes as written beside their changes, walked as a checklist. */
export function NotesPage() {
  const upgrade = Number(useParams().upgrade);
  const head = useHead(upgrade);
  const notes = useNotes(upgrade);
  const changes = useChanges(upgrade);
  useLive(upgrade);
  const error = head.error ?? notes.error ?? changes.error;
  if (error) return <Trouble error={error} retry={() => changes.refetch()} />;
  if (!head.data || !notes.data || !changes.data) return <Skeleton rows={12} />;
  return (
    <>
      <title>{`Notes of ${head.data.upgrade.name} · Unicausa`}</title>
      {notes.data.length === 0 ? (
        <div className="space-y-3">
          <p className="text-soft">No release notes have been added yet. They say which change explains a cause.</p>
          <AddNotes upgrade={upgrade} />
        </div>
      ) : (
        <Walk upgrade={upgrade} documents={notes.data} all={changes.data} />
      )}
    </>
  );
}

/** What is walked first: it wants a word or an edit. */
const pressing = new Set(["failing", "silent", "exposed"]);

/** Whether an entry concerns this code: it fails, is exposed or at risk, or somebody put it off. */
const concerns = (r: ChangeRow) => pressing.has(stateOf(r)) || stateOf(r) === "later";

/** The entries that are left out, counted by state. */
function othersOf(rows: ChangeRow[]) {
  const counts = states
    .map((s) => ({ n: rows.filter((r) => stateOf(r) === s).length, word: lookOf(s).word }))
    .filter((c) => c.n > 0);
  return `${rows.length} other ${rows.length === 1 ? "entry" : "entries"}: ${counts.map((c) => `${c.n} ${c.word}`).join(", ")}`;
}

interface WalkProps {
  upgrade: number;
  documents: NonNullable<ReturnType<typeof useNotes>["data"]>;
  all: ChangeRow[];
}

function Walk({ upgrade, documents, all }: WalkProps) {
  const [search, setSearch] = useSearchParams();
  const [saying, setSaying] = useState<Word | null>(null);
  const [patching, setPatching] = useState(false);
  const [adding, setAdding] = useState(false);
  const set = (changes: Record<string, string>) => {
    const next = new URLSearchParams(search);
    for (const [name, value] of Object.entries(changes)) {
      if (value) next.set(name, value);
      else next.delete(name);
    }
    setSearch(next, { replace: true });
  };
  const wanted = (name: string) => search.get(name) ?? "";
  const outside = wanted("outside") === "1";
  const matching = all.filter(
    (r) =>
      (r.candidate || outside) &&
      (!wanted("state") || stateOf(r) === wanted("state")) &&
      (!wanted("kind") || r.change.kind === wanted("kind")) &&
      (!wanted("impact") || r.change.impact === wanted("impact")) &&
      (!wanted("version") || r.change.version === wanted("version")),
  );
  const everything = wanted("show") === "all" || wanted("state") !== "" || !matching.some(concerns);
  const kept = everything ? matching : matching.filter((r) => concerns(r) || r.change.id === wanted("change"));
  const chosen =
    all.find((r) => r.change.id === wanted("change")) ?? kept.find((r) => pressing.has(stateOf(r))) ?? kept[0];
  const document = documents.find((d) => d.id === chosen?.change.notesId) ?? documents[0];
  const choose = (row: ChangeRow | undefined) => {
    if (!row) return;
    setSaying(null);
    setPatching(false);
    set({ change: row.change.id });
  };
  const at = kept.findIndex((r) => r.change.id === chosen?.change.id);
  useKeys({
    t: ["all entries, or those that concern this code", () => set({ show: everything ? "" : "all" })],
    j: ["next change", () => choose(kept[Math.min(at + 1, kept.length - 1)])],
    k: ["change before", () => choose(kept[Math.max(at - 1, 0)])],
    h: ["handled", () => setSaying("handled")],
    l: ["later", () => setSaying("later")],
    n: ["not used", () => setSaying("not-used")],
    e: ["leave it to the evidence", () => setSaying("")],
    p: ["patch", () => setPatching(!patching)],
  });
  if (!document) return null;
  const options = (value: (r: ChangeRow) => string) => [...new Set(all.map(value))].filter(Boolean);
  return (
    <>
      <div className="no-print mb-3 flex flex-wrap items-center gap-x-4 gap-y-2 text-sm">
        <Tally all={all.filter((r) => r.candidate)} state={wanted("state")} onState={(state) => set({ state })} />
        <span className="flex flex-wrap gap-2">
          <Pick name="kind" value={wanted("kind")} options={options((r) => r.change.kind)} onPick={set} />
          <Pick
            name="impact"
            value={wanted("impact")}
            options={options((r) => r.change.impact).filter((i) => i !== "unknown")}
            onPick={set}
          />
          <Pick name="version" value={wanted("version")} options={options((r) => r.change.version)} onPick={set} />
        </span>
        <label className="flex items-center gap-1 text-soft">
          <input type="checkbox" checked={outside} onChange={(e) => set({ outside: e.target.checked ? "1" : "" })} />
          with those outside of what moves
        </label>
        <button
          type="button"
          onClick={() => setAdding(!adding)}
          className="ml-auto text-copper underline underline-offset-2"
        >
          Add an unlisted change
        </button>
        <Offer act="Add notes">{(close) => <AddNotes upgrade={upgrade} onDone={close} />}</Offer>
      </div>
      {adding && (
        <div className="mb-4">
          <AddChange
            upgrade={upgrade}
            packages={[...new Set(documents.map((d) => d.package))]}
            onAdded={(d) => {
              setAdding(false);
              set({ change: d.row.change.id, state: "", kind: "", impact: "", version: "" });
            }}
            onCancel={() => setAdding(false)}
          />
        </div>
      )}
      {documents
        .filter((d) => d.problem)
        .map((d) => (
          <p key={d.id} className="mb-3 text-alarm">
            {d.name} is kept, but set aside: {d.problem}
          </p>
        ))}
      <div className="grid gap-6 lg:grid-cols-2">
        <section className="min-w-0 lg:order-2">
          <ol
            aria-label="Changes"
            className="max-h-[calc(100vh-13rem)] overflow-y-auto lg:min-h-64"
            data-list="changes"
          >
            {kept.map((row) => {
              const open = row.change.id === chosen?.change.id;
              return (
                <li key={row.change.id}>
                  <Entry row={row} open={open} onOpen={() => choose(row)} />
                  {open && (
                    <ChangeDetail
                      upgrade={upgrade}
                      id={row.change.id}
                      saying={saying}
                      setSaying={setSaying}
                      patching={patching}
                      setPatching={setPatching}
                    />
                  )}
                </li>
              );
            })}
          </ol>
          {kept.length < matching.length || wanted("show") === "all" ? (
            <button
              type="button"
              data-act="show-all"
              onClick={() => set({ show: everything ? "" : "all" })}
              className="mt-2 px-1 text-soft underline underline-offset-2 hover:text-copper"
            >
              {everything
                ? "Only the entries that concern this code"
                : othersOf(matching.filter((r) => !kept.includes(r)))}{" "}
              <kbd className="font-mono text-xs">t</kbd>
            </button>
          ) : null}
          {kept.length === 0 && <p className="text-soft">No change is left under these filters.</p>}
        </section>
        <section className="min-w-0">
          <p className="mb-1 flex flex-wrap gap-x-4 text-xs text-soft">
            {documents.map((d) => (
              <button
                key={d.id}
                type="button"
                onClick={() =>
                  choose(kept.find((r) => r.change.notesId === d.id) ?? all.find((r) => r.change.notesId === d.id))
                }
                className={`moves font-mono ${d.id === document.id ? "text-ink" : "hover:text-copper"}`}
                aria-pressed={d.id === document.id}
                title={d.package}
              >
                {d.name}
              </button>
            ))}
          </p>
          <NotesView
            key={document.id}
            upgrade={upgrade}
            document={document}
            rows={all.filter((r) => r.change.notesId === document.id)}
            chosen={chosen?.change.notesId === document.id ? chosen : undefined}
            onChoose={choose}
          />
        </section>
      </div>
    </>
  );
}

function Entry({ row, open, onOpen }: { row: ChangeRow; open: boolean; onOpen: () => void }) {
  const { change } = row;
  return (
    <button
      type="button"
      onClick={onOpen}
      aria-current={open}
      data-change={change.id}
      data-state={stateOf(row)}
      ref={(e) => {
        if (open) e?.scrollIntoView({ block: "nearest" });
      }}
      className={`grid w-full grid-cols-[6.5rem_minmax(0,1fr)] items-baseline gap-x-2 px-1 py-1 text-left hover:bg-wash ${open ? "bg-wash" : ""} ${row.candidate ? "" : "opacity-60"}`}
    >
      <ChangeMark row={row} />
      <span className={open ? "" : "truncate"} title={change.title}>
        {change.title}
      </span>
      <span />
      <span className="truncate text-xs text-soft">
        {[
          `${change.kind} ${change.version}`.trim(),
          change.impact !== "unknown" && `${change.impact} impact`,
          row.places > 0 && `${row.places} in ${row.files} ${row.files === 1 ? "file" : "files"}`,
          row.causes.join(", "),
          row.added && "added by hand",
          row.corrected && "corrected",
          row.reason,
        ]
          .filter(Boolean)
          .join(" · ")}
      </span>
    </button>
  );
}

/** How many changes are in each state; each count is a filter. */
function Tally({ all, state, onState }: { all: ChangeRow[]; state: string; onState: (state: string) => void }) {
  return (
    <fieldset className="flex flex-wrap gap-1">
      <legend className="sr-only">Only changes in a state</legend>
      {states.map((s) => {
        const count = all.filter((r) => stateOf(r) === s).length;
        const { word, icon: Icon, tone, filled } = lookOf(s);
        if (count === 0 && state !== s) return null;
        return (
          <button
            key={s}
            type="button"
            aria-pressed={state === s}
            data-filter={s}
            onClick={() => onState(state === s ? "" : s)}
            className={`moves inline-flex items-center gap-1 rounded border px-2 py-0.5 ${state === s ? "border-copper" : "border-line hover:border-copper"}`}
          >
            <Icon
              className={`size-3 ${tone}`}
              fill={filled ? "currentColor" : "none"}
              strokeWidth={2.5}
              aria-hidden="true"
            />
            <span className="tabular-nums">{count}</span> {word}
          </button>
        );
      })}
    </fieldset>
  );
}
