import { useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { type DecisionKind, useCorrect, useJudgeLink } from "../api/acts";
import type { Cause } from "../api/client";
import { useLive } from "../api/live";
import { useCause, useCauses, useHead, useLegCauses } from "../api/queries";
import { BulkDecision } from "../parts/BulkDecision";
import { Skeleton, Trouble } from "../parts/basics";
import { CauseRows, type Row } from "../parts/CauseRows";
import { CauseView } from "../parts/CauseView";
import { useKeys } from "../parts/keys";
import { Newer } from "../parts/Newer";
import { Pick, Select } from "../parts/Pick";
import { splitChosen } from "../parts/Regroup";

/** The causes as a workplace: a list to filter, sort and group, and its reading pane. */
export function CausesPage() {
  const upgrade = Number(useParams().upgrade);
  const head = useHead(upgrade);
  const [search] = useSearchParams();
  const leg = Number(search.get("leg") ?? 0);
  const ofLeg = useLegCauses(upgrade, leg);
  const current = useCauses(upgrade);
  const live = useLive(upgrade);
  const error = head.error ?? ofLeg.error ?? current.error;
  if (error) return <Trouble error={error} retry={() => head.refetch()} />;
  const causes = leg > 0 ? ofLeg.data : current.data;
  if (!head.data || !causes) return <Skeleton rows={12} />;
  return (
    <>
      <title>{`Causes of ${head.data.upgrade.name} · Unicausa`}</title>
      {leg > 0 && leg !== head.data.upgrade.leg.number && (
        <p className="mb-3 border-l-2 border-amber pl-3 text-soft">
          These are the causes of leg {leg}. <Link to={`/upgrades/${upgrade}/causes`}>The current leg&rsquo;s</Link>
        </p>
      )}
      <Workplace upgrade={upgrade} all={causes} live={live} />
    </>
  );
}

const standings = ["open", "undecided", "cleared", "known", "all"] as const;
const groupings = ["package", "phase", "check", "kind"] as const;
const orders: Record<string, { name: string; compare: (a: Cause, b: Cause) => number }> = {
  size: { name: "largest", compare: (a, b) => b.shown + b.hidden - (a.shown + a.hidden) },
  newest: { name: "newest", compare: (a, b) => b.first - a.first },
  title: { name: "by title", compare: (a, b) => a.title.localeCompare(b.title) },
};

function stands(c: Cause, where: string) {
  const open = !c.known && c.status !== "cleared";
  if (where === "open") return open;
  if (where === "undecided") return open && !c.decision;
  if (where === "cleared") return !c.known && c.status === "cleared";
  if (where === "known") return c.known;
  return true;
}

function groupOf(c: Cause, by: string) {
  if (by === "package") return c.package || "no package";
  if (by === "phase") return c.phase;
  if (by === "check") return c.checks.join(", ");
  if (by === "kind") return c.kind;
  return "";
}

function rowsOf(causes: Cause[], by: string): Row[] {
  if (!by) return causes.map((cause) => ({ cause }));
  const groups = new Map<string, Cause[]>();
  for (const c of causes) groups.set(groupOf(c, by), [...(groups.get(groupOf(c, by)) ?? []), c]);
  return [...groups].flatMap(([group, list]) => [{ group, count: list.length }, ...list.map((cause) => ({ cause }))]);
}

function Workplace({ upgrade, all, live }: { upgrade: number; all: Cause[]; live: ReturnType<typeof useLive> }) {
  const [search, setSearch] = useSearchParams();
  const [chosen, setChosen] = useState<string[]>([]);
  const [deciding, setDeciding] = useState<DecisionKind | null>(null);
  const [bulk, setBulk] = useState<DecisionKind | null>(null);
  const finder = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const wanted = (name: string) => search.get(name) ?? "";
  const set = (changes: Record<string, string>) => {
    const next = new URLSearchParams(search);
    for (const [name, value] of Object.entries(changes)) {
      if (value) next.set(name, value);
      else next.delete(name);
    }
    setSearch(next, { replace: true });
  };
  const where = wanted("show") || "open";
  // What is typed is kept here: the address follows when the typing rests.
  const [find, setFind] = useState(wanted("find"));
  const address = useRef(set);
  address.current = set;
  useEffect(() => {
    const soon = setTimeout(() => address.current({ find }), 200);
    return () => clearTimeout(soon);
  }, [find]);
  const text = find.toLowerCase();
  const kept = all.filter(
    (c) =>
      stands(c, where) &&
      (!wanted("phase") || c.phase === wanted("phase")) &&
      (!wanted("check") || c.checks.includes(wanted("check"))) &&
      (!wanted("kind") || c.kind === wanted("kind")) &&
      (!wanted("package") || c.package === wanted("package")) &&
      (!wanted("note") || (wanted("note") === "with") === (c.link?.standing === "likely")) &&
      (!text || `${c.id} ${c.title} ${c.package} ${c.link?.change.title ?? ""}`.toLowerCase().includes(text)),
  );
  const order = orders[wanted("order")];
  if (order) kept.sort(order.compare);
  const rows = rowsOf(kept, wanted("group"));
  const listed = rows.flatMap((r) => ("cause" in r ? [r.cause] : []));
  const current = listed.find((c) => c.id === wanted("cause")) ?? listed[0];
  const at = listed.findIndex((c) => c.id === current?.id);
  const open = (c: Cause | undefined) => {
    if (!c) return;
    setDeciding(null);
    set({ cause: c.id });
  };
  const toggle = (id: string) => setChosen(chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id]);
  const chooseAll = (on: boolean) => setChosen(on ? listed.map((c) => c.id) : []);
  const detail = useCause(upgrade, current?.id ?? "");
  const judge = useJudgeLink(upgrade, current?.id ?? "");
  const correct = useCorrect(upgrade);
  const best = detail.data?.links.find((l) => l.state !== "rejected");
  const say = (state: "confirmed" | "rejected") =>
    best && judge.mutate({ change: best.change.id, state, was: best.state });
  const decide = (kind: DecisionKind) => (chosen.length > 0 ? setBulk(kind) : setDeciding(kind));
  const merge = () => {
    const [stays, ...rest] = [...chosen].sort((a, b) => Number(a.slice(1)) - Number(b.slice(1)));
    if (!stays) return;
    correct.mutate(
      rest.map((from) => ({ kind: "merge" as const, cause: stays, from })),
      {
        onSuccess: () => {
          setChosen([]);
          set({ cause: stays });
        },
      },
    );
  };
  useKeys({
    j: ["next cause", () => open(listed[Math.min(at + 1, listed.length - 1)])],
    k: ["cause before", () => open(listed[Math.max(at - 1, 0)])],
    o: ["open on a page of its own", () => current && navigate(`/upgrades/${upgrade}/causes/${current.id}`)],
    " ": ["choose or leave it", () => current && toggle(current.id)],
    c: ["confirm the first link", () => say("confirmed")],
    x: ["reject the first link", () => say("rejected")],
    f: ["fix, the chosen ones too", () => decide("fix")],
    d: ["defer", () => decide("defer")],
    a: ["accept", () => decide("accept")],
    w: ["wait", () => decide("wait")],
    m: ["merge the chosen ones", merge],
    s: ["split the chosen symptoms off", splitChosen],
    A: ["choose all that are listed, or none", () => chooseAll(chosen.length < listed.length)],
    // A moment later, so that the key itself is not typed into the field.
    l: ["look for causes in the list", () => setTimeout(() => finder.current?.focus(), 50)],
  });
  const options = (value: (c: Cause) => string[]) => [...new Set(all.flatMap(value))].filter(Boolean).sort();
  return (
    <>
      <div className="no-print mb-3 flex flex-wrap items-center gap-2 text-sm">
        <fieldset className="flex flex-wrap gap-1">
          <legend className="sr-only">Which causes</legend>
          {standings.map((s) => (
            <button
              key={s}
              type="button"
              data-filter={s}
              aria-pressed={where === s}
              onClick={() => set({ show: s === "open" ? "" : s })}
              className={`moves rounded border px-2 py-0.5 ${where === s ? "border-copper" : "border-line hover:border-copper"}`}
            >
              <span className="tabular-nums">{all.filter((c) => stands(c, s)).length}</span> {s}
            </button>
          ))}
        </fieldset>
        <Pick name="phase" value={wanted("phase")} options={options((c) => [c.phase])} onPick={set} />
        <Pick name="check" value={wanted("check")} options={options((c) => c.checks)} onPick={set} />
        <Pick name="kind" value={wanted("kind")} options={options((c) => [c.kind])} onPick={set} />
        <Pick name="package" value={wanted("package")} options={options((c) => [c.package])} onPick={set} />
        <Pick name="note" value={wanted("note")} options={["with", "without"]} onPick={set} />
        <Select label="Group" value={wanted("group")} onPick={(group) => set({ group })}>
          <option value="">not grouped</option>
          {groupings.map((g) => (
            <option key={g} value={g}>
              by {g}
            </option>
          ))}
        </Select>
        <Select label="Order" value={wanted("order")} onPick={(order) => set({ order })}>
          <option value="">what first</option>
          {Object.entries(orders).map(([key, o]) => (
            <option key={key} value={key}>
              {o.name}
            </option>
          ))}
        </Select>
        <input
          ref={finder}
          type="search"
          aria-label="Find causes"
          placeholder="Find"
          value={find}
          onChange={(e) => setFind(e.target.value)}
          onKeyDown={(e) => e.key === "Escape" && e.currentTarget.blur()}
          className="w-28 rounded border border-line bg-sheet px-2 py-0.5"
        />
      </div>
      {chosen.length > 0 && (
        <BulkDecision
          upgrade={upgrade}
          chosen={chosen}
          kind={bulk}
          setKind={setBulk}
          onMerge={merge}
          merging={correct.isPending}
          problem={correct.error?.message}
          seen={Math.max(0, ...all.map((c) => c.decision?.id ?? 0))}
          onDone={() => {
            setBulk(null);
            setChosen([]);
          }}
        />
      )}
      <Newer live={live} />
      <div className="grid gap-6 lg:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
        <section className="min-w-0" {...live.hold}>
          {listed.length === 0 ? (
            <p className="text-soft">No cause is left under these filters.</p>
          ) : (
            <label className="no-print grid grid-cols-[1.25rem_minmax(0,1fr)] items-center gap-1 px-2 pb-1 text-xs text-soft">
              <input
                type="checkbox"
                data-choose="all"
                checked={listed.every((c) => chosen.includes(c.id))}
                onChange={(e) => chooseAll(e.target.checked)}
                className="accent-copper"
              />
              {counted(listed)}
            </label>
          )}
          <CauseRows rows={rows} current={current?.id ?? ""} chosen={chosen} onOpen={open} onToggle={toggle} />
        </section>
        <section className="min-w-0 lg:max-h-[calc(100vh-9.5rem)] lg:overflow-y-auto lg:pr-1" aria-label="The cause">
          {current && detail.data?.cause.id === current.id && (
            <CauseView
              key={current.id}
              upgrade={upgrade}
              detail={detail.data}
              deciding={deciding}
              setDeciding={setDeciding}
              narrow
            />
          )}
          {current && detail.isLoading && <Skeleton rows={6} />}
          {detail.error && current && <Trouble error={detail.error} retry={() => detail.refetch()} />}
        </section>
      </div>
      {current && (
        <p className="no-print mt-4 text-xs text-soft lg:hidden">
          <Link to={`/upgrades/${upgrade}/causes/${current.id}`} className="text-copper underline underline-offset-2">
            {current.id} on a page of its own
          </Link>
        </p>
      )}
    </>
  );
}

function counted(causes: Cause[]) {
  const symptoms = causes.reduce((sum, c) => sum + c.shown + c.hidden, 0);
  return `${causes.length} ${causes.length === 1 ? "cause" : "causes"}, ${symptoms} ${symptoms === 1 ? "symptom" : "symptoms"}`;
}
