import { ArrowLeft } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { CauseDetail } from "../api/client";
import { useLive } from "../api/live";
import { type DecisionKind, useCause, useJudgeLink, useOverview } from "../api/queries";
import { CopyButton, Heading, Skeleton, Trouble } from "../parts/basics";
import { DecisionBar } from "../parts/DecisionBar";
import { Evidence } from "../parts/Evidence";
import { useKeys } from "../parts/keys";
import { LinkedChange } from "../parts/LinkedChange";
import { SymptomList } from "../parts/SymptomList";
import { StandingMark } from "../parts/standing";

/** One cause: its symptoms, the change that explains it, and the decision. */
export function CausePage() {
  const params = useParams();
  const upgrade = Number(params.upgrade);
  const detail = useCause(upgrade, params.cause ?? "");
  useLive(upgrade);
  if (detail.error) return <Trouble error={detail.error} retry={() => detail.refetch()} />;
  if (!detail.data) return <Skeleton rows={8} />;
  return <Shown key={detail.data.cause.id} upgrade={upgrade} detail={detail.data} />;
}

function Shown({ upgrade, detail }: { upgrade: number; detail: CauseDetail }) {
  const { cause, links } = detail;
  const judge = useJudgeLink(upgrade, cause.id);
  const [deciding, setDeciding] = useState<DecisionKind | null>(null);
  const navigate = useNavigate();
  const others = useOverview(upgrade).data?.causes.filter((c) => !c.known && c.status !== "cleared") ?? [];
  const here = others.findIndex((c) => c.id === cause.id);
  const to = (n: number) => {
    const next = others[Math.max(0, Math.min(n, others.length - 1))];
    if (next) navigate(`/upgrades/${upgrade}/causes/${next.id}`);
  };
  const best = links.find((l) => l.state !== "rejected");
  const say = (state: "confirmed" | "rejected") => best && judge.mutate({ change: best.change.id, state });
  useKeys({
    j: ["next cause", () => to(here + 1)],
    k: ["cause before", () => to(here - 1)],
    u: ["up to the upgrade", () => navigate(`/upgrades/${upgrade}`)],
    c: ["confirm the first link", () => say("confirmed")],
    x: ["reject the first link", () => say("rejected")],
    f: ["fix", () => setDeciding("fix")],
    d: ["defer", () => setDeciding("defer")],
    a: ["accept", () => setDeciding("accept")],
    w: ["wait", () => setDeciding("wait")],
  });
  return (
    <>
      <title>{`${cause.id} ${cause.title} · Unicausa`}</title>
      <Link
        to={`/upgrades/${upgrade}`}
        className="no-print inline-flex items-center gap-1 text-xs text-soft hover:text-copper"
      >
        <ArrowLeft className="size-3" aria-hidden="true" />
        all causes
      </Link>
      <div className="mt-1 flex items-start gap-2">
        <h1 className="text-lg font-semibold [overflow-wrap:anywhere]">
          <span className="mr-2 font-mono font-normal text-copper">{cause.id}</span>
          {cause.title}
        </h1>
        <CopyButton text={`${cause.id} ${cause.title}`} label="Copy the cause" />
      </div>
      <p className="flex flex-wrap items-center gap-x-4 text-soft">
        <StandingMark cause={cause} />
        {cause.status === "shown" && <span>{cause.reason}</span>}
        <span className="text-xs">
          {cause.phase} · {cause.checks.join(", ")} · since run {cause.first}
        </span>
      </p>
      <div className="mt-6 grid gap-8 lg:grid-cols-[minmax(0,7fr)_minmax(0,5fr)]">
        <section className="min-w-0">
          <Heading aside={<Life detail={detail} />}>{counted(detail)}</Heading>
          <SymptomList upgrade={upgrade} symptoms={detail.symptoms} />
        </section>
        <section className="min-w-0 space-y-8">
          <div>
            <Heading>Explained by</Heading>
            {links.length === 0 && (
              <p className="text-soft">No entry of the notes explains this. Nothing is better than a wrong link.</p>
            )}
            {links.map((link, i) => (
              <LinkedChange key={link.change.id} upgrade={upgrade} link={link} first={i === 0} judge={judge} />
            ))}
          </div>
          <div>
            <Heading>Why these are one cause</Heading>
            <Evidence because={detail.because} />
          </div>
          <DecisionBar upgrade={upgrade} detail={detail} deciding={deciding} setDeciding={setDeciding} />
        </section>
      </div>
    </>
  );
}

function counted({ cause, symptoms }: CauseDetail) {
  const followers = symptoms.filter((s) => s.follower && s.status === "shown").length;
  const left = cause.shown + cause.hidden;
  if (left === 0) return symptoms.length === 1 ? "1 symptom, cleared" : `${symptoms.length} symptoms, all cleared`;
  return `${left} ${left === 1 ? "symptom" : "symptoms"}${followers > 0 ? `, ${followers} only follow` : ""}`;
}

/** The cause's size over the runs. */
function Life({ detail }: { detail: CauseDetail }) {
  const points = detail.life.filter((p, i, all) => i === 0 || p.shown !== all[i - 1]?.shown);
  const last = points.slice(-3).map((p) => `${p.shown} after run ${p.run}`);
  return <>{(points.length > 3 ? ["…", ...last] : last).join(" → ")}</>;
}
