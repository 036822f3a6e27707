import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Cause, Overview } from "../api/client";
import { useLive } from "../api/live";
import { useChanges, useOverview } from "../api/queries";
import { AcceptBaseline } from "../parts/AcceptBaseline";
import { Command, Heading, Skeleton, Trouble } from "../parts/basics";
import { CauseList } from "../parts/CauseList";
import { CheckTable } from "../parts/CheckTable";
import { Convergence } from "../parts/Convergence";
import { DebtList } from "../parts/DebtList";
import { DescribeChecks } from "../parts/DescribeChecks";
import { HistoryChart } from "../parts/HistoryChart";
import { useKeys } from "../parts/keys";
import { Newer } from "../parts/Newer";
import { Offer } from "../parts/Offer";
import { Prepare } from "../parts/Prepare";
import { RecordRun } from "../parts/RecordRun";
import { Route } from "../parts/Route";
import { Verdict } from "../parts/Verdict";

const first = 10; // causes of a list that are shown here

/** Does it pass, what is left, what to do now, is it getting better. */
export function UpgradePage() {
  const id = Number(useParams().upgrade);
  const overview = useOverview(id);
  const live = useLive(id);
  if (overview.error) return <Trouble error={overview.error} retry={() => overview.refetch()} />;
  if (!overview.data) return <Skeleton rows={8} />;
  return <Shown overview={overview.data} live={live} />;
}

function Shown({ overview, live }: { overview: Overview; live: ReturnType<typeof useLive> }) {
  const { upgrade, causes, counts } = overview;
  const open = causes.filter((c) => !c.known && c.status !== "cleared");
  const settled = causes.filter((c) => !c.known && c.status === "cleared");
  const known = causes.filter((c) => c.known);
  const [at, setAt] = useState(-1);
  const navigate = useNavigate();
  const listed = [...open.slice(0, first), ...settled.slice(0, first), ...known.slice(0, first)];
  const go = (c: Cause | undefined) => c && navigate(`/upgrades/${upgrade.id}/causes/${c.id}`);
  useKeys({
    j: ["next cause", () => setAt((n) => Math.min(n + 1, listed.length - 1))],
    k: ["cause before", () => setAt((n) => Math.max(n - 1, 0))],
    o: ["open the cause", () => go(listed[at])],
  });
  const silent = (useChanges(upgrade.id).data ?? []).filter((c) => c.silent);
  const begins = overview.preparation.length > 0;
  const lists = { upgrade: upgrade.id, selected: listed[at]?.id };
  return (
    <>
      <title>{`${upgrade.name} · Unicausa`}</title>
      <Verdict overview={overview} />
      {overview.due.length > 0 && (
        <section className="mt-8">
          <Heading aside="this upgrade, or the day, has come to them">
            {overview.due.length === 1 ? "1 debt is due" : `${overview.due.length} debts are due`}
          </Heading>
          <DebtList upgrade={upgrade.id} debts={overview.due} />
        </section>
      )}
      {begins && (
        <div className="mt-8 grid gap-8 lg:grid-cols-2">
          <Prepare upgrade={upgrade.id} list={overview.preparation} />
          <Route overview={overview} />
        </div>
      )}
      <div className="mt-8 grid gap-8 lg:grid-cols-2">
        <section>
          <Heading
            aside={
              overview.pending > 0
                ? overview.pending === 1
                  ? "1 run is being processed"
                  : `${overview.pending} runs are being processed`
                : undefined
            }
          >
            Checks
          </Heading>
          <CheckTable upgrade={upgrade.id} checks={overview.checks} />
          {open.length > 0 && (
            <div className="mt-6">
              <Heading>Checks → causes → notes</Heading>
              <Convergence upgrade={upgrade.id} causes={open} all={counts.open} silent={silent} />
            </div>
          )}
        </section>
        <section>
          <Heading aside="symptoms shown after each run, by cause">Causes over time</Heading>
          <HistoryChart upgrade={upgrade.id} history={overview.history} causes={causes} />
        </section>
      </div>
      <section className="mt-8" {...live.hold}>
        <Heading aside={open.length > 0 ? "in the order to tackle them" : undefined}>
          {counts.open === 1 ? "1 cause left" : `${counts.open} causes left`}
        </Heading>
        <Newer live={live} />
        {causes.length === 0 && <Nothing overview={overview} />}
        <CauseList causes={open.slice(0, first)} {...lists} />
        {counts.open > first && (
          <Link
            to={`/upgrades/${upgrade.id}/causes`}
            className="mt-2 inline-block text-copper underline underline-offset-2"
          >
            All {counts.open} causes
          </Link>
        )}
        <Folded
          count={counts.cleared}
          title={`${counts.cleared} cleared`}
          show="cleared"
          causes={settled}
          lists={lists}
        />
        <Folded
          count={counts.known}
          title={`${counts.known} there before the bump`}
          show="known"
          causes={known}
          lists={lists}
        />
      </section>
      {!begins && (
        <div className="mt-8">
          <Route overview={overview} />
        </div>
      )}
    </>
  );
}

function Folded(props: {
  count: number;
  title: string;
  show: string;
  causes: Cause[];
  lists: { upgrade: number; selected?: string };
}) {
  if (props.causes.length === 0) return null;
  return (
    <details className="mt-4" open={props.causes.some((c) => c.id === props.lists.selected) || undefined}>
      <summary className="cursor-pointer text-soft">{props.title}</summary>
      <CauseList causes={props.causes.slice(0, first)} {...props.lists} />
      {props.count > first && (
        <Link
          to={`/upgrades/${props.lists.upgrade}/causes?show=${props.show}`}
          className="mt-2 inline-block text-copper underline underline-offset-2"
        >
          All {props.count}
        </Link>
      )}
    </details>
  );
}

/** The next act of an upgrade that has nothing to show yet. */
function Nothing({ overview }: { overview: Overview }) {
  const { upgrade, checks } = overview;
  const accepted = checks.some((c) => c.baseline);
  if (accepted) {
    return (
      <div className="space-y-3">
        <p className="text-soft">Nothing is broken so far. After the bump, record every check again:</p>
        <Command text="unicausa record --all" />
        <Offer act="Record a run from files">{() => <RecordRun upgrade={upgrade.id} />}</Offer>
      </div>
    );
  }
  return (
    <div className="space-y-3">
      <p className="text-soft">
        {checks.length === 0
          ? "Record every check on the old version, then accept what they say as the baseline:"
          : "Record what is left on the old version, then accept it as the baseline:"}
      </p>
      <Offer act="Describe the checks">{() => <DescribeChecks names={checks.map((c) => c.name)} />}</Offer>
      <Offer act="Record a run from files">{() => <RecordRun upgrade={upgrade.id} />}</Offer>
      {checks.length > 0 && <AcceptBaseline upgrade={upgrade.id} />}
      <Command text="unicausa record --all && unicausa baseline" />
    </div>
  );
}
