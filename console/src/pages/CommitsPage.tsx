import { Link, useParams } from "react-router";
import type { Commit } from "../api/client";
import { useLive } from "../api/live";
import { useCommits, useHead } from "../api/queries";
import { Command, CopyButton, Skeleton, Trouble } from "../parts/basics";
import { Table } from "../parts/Table";

/** Which commit cleared which cause, which brought something new, and what it uncovered. */
export function CommitsPage() {
  const upgrade = Number(useParams().upgrade);
  const head = useHead(upgrade);
  const commits = useCommits(upgrade);
  useLive(upgrade);
  const error = head.error ?? commits.error;
  if (error) return <Trouble error={error} retry={() => commits.refetch()} />;
  if (!head.data || !commits.data) return <Skeleton rows={8} />;
  return (
    <>
      <title>{`Commits of ${head.data.upgrade.name} · Unicausa`}</title>
      {commits.data.length === 0 ? (
        <div className="space-y-2 text-soft">
          <p>No commits yet: runs that are recorded in a git working copy bring theirs. A message for a fix:</p>
          <Command text="unicausa message C3 | git commit -F - -e" />
        </div>
      ) : (
        <Table words={["commit", "names", "cleared", "brought"]} numbers={["uncovered", "introduced", "runs"]} wide>
          {commits.data.map((c) => (
            <Row key={c.id} upgrade={upgrade} commit={c} />
          ))}
        </Table>
      )}
    </>
  );
}

function Row({ upgrade, commit }: { upgrade: number; commit: Commit }) {
  const runs = commit.runs;
  return (
    <tr className="border-t border-line align-top">
      <td className="py-1.5 pr-4">
        <span className="inline-flex items-center gap-1">
          <code className="text-xs text-copper">{commit.id.slice(0, 10)}</code>
          <CopyButton text={commit.id} label="Copy the commit" />
        </span>{" "}
        {commit.subject}
        <span className="block text-xs text-soft">
          {commit.author} {new Date(commit.at).toISOString().slice(0, 16).replace("T", " ")}
          {(commit.shared ?? 0) > 1 && ` · recorded with ${commit.shared} commits at once`} ·{" "}
          <Link to={`/upgrades/${upgrade}/review?commit=${commit.id}`} className="hover:text-copper hover:underline">
            review
          </Link>
        </span>
      </td>
      <Names upgrade={upgrade} names={commit.named} />
      <Names upgrade={upgrade} names={commit.cleared} tone="text-calm" />
      <Names upgrade={upgrade} names={commit.opened} tone="text-alarm" />
      <td className="py-1.5 text-right">{commit.uncovered || ""}</td>
      <td className={`py-1.5 text-right ${commit.introduced > 0 ? "text-alarm" : ""}`}>{commit.introduced || ""}</td>
      <td className="py-1.5 pl-3 text-right text-xs text-soft">
        {runs.length > 0 && (
          <Link to={`/upgrades/${upgrade}/runs/${runs[runs.length - 1]}`} className="hover:text-copper">
            {runs.length > 1 ? `#${runs[0]} to #${runs[runs.length - 1]}` : `#${runs[0]}`}
          </Link>
        )}
      </td>
    </tr>
  );
}

function Names({ upgrade, names, tone = "" }: { upgrade: number; names: string[]; tone?: string }) {
  return (
    <td className={`py-1.5 pr-4 ${tone}`}>
      {names.map((n) => (
        <Link key={n} to={`/upgrades/${upgrade}/causes/${n}`} className="mr-1.5 font-mono text-xs hover:text-copper">
          {n}
        </Link>
      ))}
    </td>
  );
}
