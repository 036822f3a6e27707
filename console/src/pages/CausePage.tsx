import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { type DecisionKind, useJudgeLink } from "../api/acts";
import type { CauseDetail } from "../api/client";
import { useLive } from "../api/live";
import { useCause, useCauses } from "../api/queries";
import { Skeleton, Trouble } from "../parts/basics";
import { CauseView } from "../parts/CauseView";
import { useKeys } from "../parts/keys";
import { splitChosen } from "../parts/Regroup";

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
  const others = useCauses(upgrade).data?.filter((c) => !c.known && c.status !== "cleared") ?? [];
  const here = others.findIndex((c) => c.id === cause.id);
  const to = (n: number) => {
    const next = others[Math.max(0, Math.min(n, others.length - 1))];
    if (next) navigate(`/upgrades/${upgrade}/causes/${next.id}`);
  };
  const best = links.find((l) => l.state !== "rejected");
  const say = (state: "confirmed" | "rejected") =>
    best && judge.mutate({ change: best.change.id, state, was: best.state });
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
    s: ["split the chosen symptoms off", splitChosen],
  });
  return (
    <>
      <title>{`${cause.id} ${cause.title} · Unicausa`}</title>
      <CauseView upgrade={upgrade} detail={detail} deciding={deciding} setDeciding={setDeciding} />
    </>
  );
}
