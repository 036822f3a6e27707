import { NavLink, Outlet, useLocation, useParams } from "react-router";
import type { Upgrade } from "../api/client";
import { useHead } from "../api/queries";
import { Skeleton, Trouble } from "./basics";

/** What each page is for, in a line at its top. */
const purposes: Record<string, string> = {
  "": "Does it pass, what is left, what to do now, is it getting better.",
  causes: "The few decisions behind the symptoms, in the order to tackle them.",
  runs: "Every recording of every check, the latest first; pick two to compare them.",
  compare: "What is new, what is gone and what was run differently between two runs.",
  commits: "Which commit cleared which cause, and which brought something new.",
  review: "Every hunk of the edit with what asks for it; what nothing asks for comes first.",
  tests: "Every test against every run, trouble on top.",
  notes: "The entries of the release notes that concern this code, beside the notes as written.",
  versions: "What moved, what was pulled in, and who is ready for the new version.",
  debts: "What is put off, until when, and what is due.",
  report: "The upgrade written up: for a pull request, for standing, for closing.",
  activity: "What happened, and who did it.",
};

/** The frame of an upgrade's pages: its name, what it moves, and the way to each page. */
export function UpgradeFrame() {
  const head = useHead(Number(useParams().upgrade));
  const purpose = purposes[useLocation().pathname.split("/")[3] ?? ""];
  if (head.error) return <Trouble error={head.error} retry={() => head.refetch()} />;
  if (!head.data) return <Skeleton rows={10} />;
  return (
    <>
      <UpgradeHead upgrade={head.data.upgrade} />
      {purpose && <p className="no-print -mt-2 mb-4 text-xs text-soft">{purpose}</p>}
      <Outlet />
    </>
  );
}

/** An upgrade's name and moves, and the way to its pages. */
function UpgradeHead({ upgrade }: { upgrade: Upgrade }) {
  return (
    <div className="mb-4">
      <p className="text-xs text-soft">
        {upgrade.project} · leg {upgrade.leg.number}:{" "}
        {upgrade.leg.moves.map((m) => `${m.package} ${m.from} → ${m.to}`).join(", ")}
      </p>
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h1 className="text-lg font-semibold">{upgrade.name}</h1>
        <nav className="no-print flex flex-wrap gap-x-4" aria-label="Pages of this upgrade">
          <Way to={`/upgrades/${upgrade.id}`} name="Overview" end />
          <Way to={`/upgrades/${upgrade.id}/causes`} name="Causes" />
          <Way to={`/upgrades/${upgrade.id}/runs`} name="Runs" />
          <Way to={`/upgrades/${upgrade.id}/commits`} name="Commits" />
          <Way to={`/upgrades/${upgrade.id}/review`} name="Review" />
          <Way to={`/upgrades/${upgrade.id}/tests`} name="Tests" />
          <Way to={`/upgrades/${upgrade.id}/notes`} name="Notes" />
          <Way to={`/upgrades/${upgrade.id}/versions`} name="Versions" />
          <Way to={`/upgrades/${upgrade.id}/debts`} name="Debts" />
          <Way to={`/upgrades/${upgrade.id}/report`} name="Report" />
          <Way to={`/upgrades/${upgrade.id}/activity`} name="Activity" />
        </nav>
      </div>
    </div>
  );
}

function Way({ to, name, end }: { to: string; name: string; end?: boolean }) {
  return (
    <NavLink
      to={to}
      end={end}
      className={({ isActive }) =>
        `moves border-b-2 pb-0.5 ${isActive ? "border-copper text-ink" : "border-transparent text-soft hover:text-copper"}`
      }
    >
      {name}
    </NavLink>
  );
}
