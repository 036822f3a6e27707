import { type FormEvent, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { type Review, type ReviewHunk, useReview, useReviewDiff } from "../api/edits";
import { useCommits, useHead } from "../api/queries";
import { Heading, Skeleton, Trouble } from "../parts/basics";
import { Hunk } from "../parts/Hunk";

/** What changed in the code, held against what asks for it. */
export function ReviewPage() {
  const upgrade = Number(useParams().upgrade);
  const [search, setSearch] = useSearchParams();
  const commit = search.get("commit") ?? "";
  const head = useHead(upgrade);
  const commits = useCommits(upgrade);
  const review = useReview(upgrade, commit);
  const given = useReviewDiff(upgrade);
  const error = head.error ?? review.error;
  if (error) return <Trouble error={error} retry={() => review.refetch()} />;
  if (!head.data || !review.data) return <Skeleton rows={8} />;
  return (
    <>
      <title>{`Review of ${head.data.upgrade.name} · Unicausa`}</title>
      <div className="no-print mb-4 flex flex-wrap items-start gap-x-4 gap-y-2">
        <label className="flex items-center gap-2 text-sm">
          <span className="text-soft">Review</span>
          <select
            name="commit"
            value={commit}
            onChange={(e) => {
              given.reset();
              setSearch(e.target.value ? { commit: e.target.value } : {}, { replace: true });
            }}
            className="max-w-md rounded border border-line bg-sheet px-2 py-0.5"
          >
            <option value="">all since the baseline</option>
            {(commits.data ?? []).map((c) => (
              <option key={c.id} value={c.id}>
                {c.id.slice(0, 10)} {c.subject}
              </option>
            ))}
          </select>
        </label>
        <GivenDiff busy={given.isPending} error={given.error?.message} onGive={(diff) => given.mutate(diff)} />
      </div>
      <Shown upgrade={upgrade} review={given.data ?? review.data} />
    </>
  );
}

function GivenDiff({ busy, error, onGive }: { busy: boolean; error?: string; onGive: (diff: string) => void }) {
  const [open, setOpen] = useState(false);
  const [diff, setDiff] = useState("");
  const submit = (e: FormEvent) => {
    e.preventDefault();
    onGive(diff);
  };
  if (!open) {
    return (
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="moves rounded border border-line px-2 py-0.5 text-sm hover:border-copper"
      >
        A diff of your own
      </button>
    );
  }
  return (
    <form onSubmit={submit} className="min-w-72 flex-1 space-y-1" data-given>
      <textarea
        required
        rows={4}
        name="diff"
        value={diff}
        onChange={(e) => setDiff(e.target.value)}
        placeholder="What git diff prints"
        aria-label="A unified diff"
        className="w-full rounded border border-line bg-sheet px-2 py-1 font-mono text-xs"
      />
      <button type="submit" disabled={busy} className="rounded bg-copper px-3 py-0.5 text-sm text-paper">
        Review it
      </button>
      {error && (
        <span role="alert" className="ml-3 text-xs text-alarm">
          {error}
        </span>
      )}
    </form>
  );
}

/** The parts of a review in which every hunk is shown. */
const parts = [
  ["unasked", "Nothing asks for"],
  ["more", "Asked for, and more than that"],
  ["half", "Half done"],
] as const;

function Shown({ upgrade, review }: { upgrade: number; review: Review }) {
  const left = review.edits.filter((e) => e.places + e.said > 0);
  return (
    <div className="space-y-6" data-review>
      <p className={review.clean ? "text-calm" : ""}>
        <b>{review.of}</b>: {review.summary || "nothing changed"}
        {review.clean && review.summary && ". Everything is asked for, and nothing is left behind"}.
      </p>
      {parts.map(([standing, title]) => {
        const own = review.hunks.filter((h) => h.standing === standing);
        if (own.length === 0) return null;
        return (
          <section key={standing}>
            <Heading aside={`${own.length} ${own.length === 1 ? "hunk" : "hunks"}`}>{title}</Heading>
            <ul className="space-y-2">
              {own.map((h) => (
                <Hunk key={`${h.file}:${h.oldLine}:${h.line}`} upgrade={upgrade} hunk={h} />
              ))}
            </ul>
          </section>
        );
      })}
      <Folded upgrade={upgrade} title="Asked for" hunks={review.hunks.filter((h) => h.standing === "asked")} by />
      <Folded
        upgrade={upgrade}
        title="What follows from the move, space and comments"
        hunks={review.hunks.filter((h) => h.standing === "follows" || h.standing === "layout")}
      />
      {left.length > 0 && (
        <section data-left>
          <Heading>Left behind</Heading>
          <ul className="space-y-3">
            {left.map((e) => (
              <li key={e.change}>
                {e.title}{" "}
                <Link
                  to={`/upgrades/${upgrade}/notes?change=${e.change}`}
                  className="font-mono text-xs text-copper hover:underline"
                >
                  {e.at}
                </Link>{" "}
                <span className="text-xs text-soft">
                  {e.places > 0 && `${e.done} of ${e.done + e.places} places`}
                  {e.said > 0 && `${e.places > 0 ? ", and " : ""}${e.said} in comments or documents`}
                </span>
                {e.left.map((p) => (
                  <code key={`${p.file}:${p.line}:${p.column}`} className="block truncate text-xs" title={p.text}>
                    <span className="text-copper">
                      {p.file}:{p.line}
                    </span>{" "}
                    {p.text.trim()}
                  </code>
                ))}
              </li>
            ))}
          </ul>
        </section>
      )}
      {review.note && <p className="text-xs text-soft">{review.note}.</p>}
    </div>
  );
}

interface FoldedProps {
  upgrade: number;
  title: string;
  hunks: ReviewHunk[];
  by?: boolean;
}

/** Hunks that need no look, folded: by what asks for them, or all at once. */
function Folded({ upgrade, title, hunks, by }: FoldedProps) {
  if (hunks.length === 0) return null;
  const groups = new Map<string, ReviewHunk[]>();
  for (const h of hunks) {
    const asks = h.asks[0];
    const name = by && asks ? [asks.title, asks.cause || asks.at].join(" · ") : "Each with its reason";
    groups.set(name, [...(groups.get(name) ?? []), h]);
  }
  return (
    <section>
      <Heading aside={`${hunks.length} ${hunks.length === 1 ? "hunk" : "hunks"}`}>{title}</Heading>
      {[...groups].map(([name, own]) => (
        <details key={name} className="border-t border-line py-1">
          <summary className="cursor-pointer">
            {name} <span className="text-xs text-soft">{own.length}</span>
          </summary>
          <ul className="mt-2 space-y-2">
            {own.map((h) => (
              <Hunk key={`${h.file}:${h.oldLine}:${h.line}`} upgrade={upgrade} hunk={h} />
            ))}
          </ul>
        </details>
      ))}
    </section>
  );
}
