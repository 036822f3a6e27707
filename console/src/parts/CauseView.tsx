import { useState } from "react";
import { Link } from "react-router";
import { type DecisionKind, useJudgeLink } from "../api/acts";
import type { CauseDetail } from "../api/client";
import { AskOthers } from "./AskOthers";
import { CopyButton, Heading } from "./basics";
import { Cascade } from "./Cascade";
import { DecisionBar } from "./DecisionBar";
import { Evidence } from "./Evidence";
import { LinkedChange } from "./LinkedChange";
import { DependencyLine } from "./Readiness";
import { Corrections, Regroup } from "./Regroup";
import { SeenBefore } from "./SeenBefore";
import { Steps } from "./Steps";
import { SymptomList } from "./SymptomList";
import { StandingMark } from "./standing";

interface Props {
  upgrade: number;
  detail: CauseDetail;
  deciding: DecisionKind | null;
  setDeciding: (kind: DecisionKind | null) => void;
  /** Beside a list there is room for one column. */
  narrow?: boolean;
}

/** A cause in full: its symptoms, what to do, the changes that may explain it, the evidence and the decision. */
export function CauseView({ upgrade, detail, deciding, setDeciding, narrow }: Props) {
  const { cause, links } = detail;
  const judge = useJudgeLink(upgrade, cause.id);
  const [chosen, setChosen] = useState<string[]>([]);
  const choose = (ids: string[], on: boolean) =>
    setChosen(on ? [...new Set([...chosen, ...ids])] : chosen.filter((id) => !ids.includes(id)));
  const beside = !narrow && links.length > 1; // to compare them
  const symptoms = (
    <section className="min-w-0">
      <Heading aside={lived(detail)}>{counted(detail)}</Heading>
      <Regroup upgrade={upgrade} cause={cause} chosen={chosen} onDone={() => setChosen([])} />
      <SymptomList upgrade={upgrade} symptoms={detail.symptoms} chosen={chosen} onChoose={choose} />
    </section>
  );
  const explained = (
    <div>
      <Heading>
        {links.some((l) => l.standing === "likely") || links.length === 0 ? "Explained by" : "Perhaps explained by"}
      </Heading>
      {links.length === 0 && <p className="text-soft">Cannot tell: no entry of the notes explains this.</p>}
      <div className={beside ? "grid gap-6 sm:grid-cols-2 lg:grid-cols-3" : ""}>
        {links.map((link, i) => (
          <LinkedChange key={link.change.id} upgrade={upgrade} link={link} folded={narrow && i > 0} judge={judge} />
        ))}
      </div>
    </div>
  );
  return (
    <div data-part="cause">
      <div className="flex items-start gap-2">
        <h2 className="text-lg font-semibold [overflow-wrap:anywhere]">
          <span className="mr-2 font-mono font-normal text-copper">{cause.id}</span>
          {cause.title}
        </h2>
        <CopyButton text={`${cause.id} ${cause.title}`} label="Copy the cause" />
      </div>
      <p className="flex flex-wrap items-center gap-x-4 text-soft">
        <StandingMark cause={cause} />
        {cause.status === "shown" && <span>{cause.reason}</span>}
        <span className="text-xs">
          {cause.phase} · {cause.checks.join(", ")} · leg {cause.leg}, since run {cause.first}
          {cause.silenced > 0 && ` · ${cause.silenced} out of sight with a test that was skipped or deleted`}
        </span>
      </p>
      {beside && <div className="mt-6">{explained}</div>}
      <div className={narrow ? "mt-4 space-y-6" : "mt-6 grid gap-8 lg:grid-cols-[minmax(0,7fr)_minmax(0,5fr)]"}>
        {!narrow && symptoms}
        <section className="min-w-0 space-y-8">
          <Steps upgrade={upgrade} steps={detail.steps} />
          {detail.ready && (
            <div data-part="not-ready">
              <Heading
                aside={
                  <Link to={`/upgrades/${upgrade}/versions`} className="text-copper underline underline-offset-2">
                    who else is ready
                  </Link>
                }
              >
                Not ready
              </Heading>
              <DependencyLine dependency={detail.ready} />
            </div>
          )}
          {!beside && explained}
          {narrow && symptoms}
          <Cascade symptoms={detail.symptoms} />
          <div>
            <Heading>Why these symptoms are one cause</Heading>
            <Evidence because={detail.because} />
          </div>
          {detail.cases.length > 0 && (
            <div>
              <Heading aside="how it went in other upgrades">Seen before</Heading>
              <SeenBefore cases={detail.cases} />
            </div>
          )}
          {(detail.elsewhere?.length ?? 0) > 0 && (
            <div data-part="elsewhere">
              <Heading aside="open in other upgrades">The same cause elsewhere</Heading>
              <ul className="space-y-1">
                {detail.elsewhere?.map((e) => (
                  <li key={`${e.upgrade} ${e.cause}`}>
                    <Link
                      to={`/upgrades/${e.upgrade}/causes/${e.cause}`}
                      className="text-copper underline underline-offset-2"
                    >
                      {e.cause} of {e.name}
                    </Link>{" "}
                    <span className="text-soft">
                      {e.project}
                      {e.decision ? `, ${e.decision}` : ", undecided"}
                    </span>
                  </li>
                ))}
              </ul>
            </div>
          )}
          <DecisionBar upgrade={upgrade} detail={detail} deciding={deciding} setDeciding={setDeciding} />
          <Fixes upgrade={upgrade} detail={detail} />
          <AskOthers upgrade={upgrade} detail={detail} />
          <Corrections upgrade={upgrade} detail={detail} />
        </section>
      </div>
    </div>
  );
}

/** The commits that name the cause, cleared it or brought it, and a message for the next one. */
function Fixes({ upgrade, detail }: { upgrade: number; detail: CauseDetail }) {
  const id = detail.cause.id;
  return (
    <div>
      <Heading>Commits</Heading>
      <ul className="space-y-1">
        {detail.commits.map((c) => (
          <li key={c.id}>
            <Link
              to={`/upgrades/${upgrade}/review?commit=${c.id}`}
              className="font-mono text-xs text-copper hover:underline"
            >
              {c.id.slice(0, 10)}
            </Link>{" "}
            {c.subject}{" "}
            <span className="text-xs text-soft">
              {[
                c.named.includes(id) && "names it",
                c.cleared.includes(id) && "cleared it",
                c.opened.includes(id) && "brought it",
              ]
                .filter(Boolean)
                .join(", ")}
            </span>
          </li>
        ))}
      </ul>
      <details className="no-print mt-1">
        <summary className="cursor-pointer text-xs text-soft">A message for the fix</summary>
        <div className="mt-1 flex items-start gap-1">
          <pre className="min-w-0 flex-1 whitespace-pre-wrap [overflow-wrap:anywhere] bg-sheet p-2 text-xs">
            {detail.message}
          </pre>
          <CopyButton text={detail.message} label="Copy the message" />
        </div>
      </details>
    </div>
  );
}

function counted({ cause, symptoms }: CauseDetail) {
  const followers = symptoms.filter((s) => s.follower && s.status === "shown").length;
  const left = cause.shown + cause.hidden;
  if (left === 0) return symptoms.length === 1 ? "1 symptom, cleared" : `${symptoms.length} symptoms, all cleared`;
  return `${left} ${left === 1 ? "symptom" : "symptoms"}${followers > 0 ? `, ${followers} only follow` : ""}`;
}

/** The cause's life: which run brought it, shrank it, cleared it, brought it back. */
function lived({ life }: CauseDetail) {
  const parts: string[] = [];
  let size = 0;
  for (const [i, p] of life.entries()) {
    const now = p.shown + p.hidden;
    if (i === 0 && now > 0) parts.push(`run ${p.run} brought ${now}`);
    else if (size === 0 && now > 0) parts.push(`run ${p.run} brought it back with ${now}`);
    else if (size > 0 && now === 0) parts.push(`run ${p.run} cleared it`);
    else if (now < size) parts.push(`run ${p.run} shrank it to ${now}`);
    else if (now > size) parts.push(`run ${p.run} grew it to ${now}`);
    size = now;
  }
  return (parts.length > 4 ? [parts[0], "…", ...parts.slice(-3)] : parts).join(", ");
}
