import { Check as Tick, X } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { Check } from "../api/client";
import { Hint } from "./basics";
import { Table } from "./Table";

const phases = ["resolve", "configure", "parse", "compile", "link", "start", "run", "test"];

/** How far each check gets, as the rungs of a ladder, against its baseline. */
export function CheckTable({ upgrade, checks }: { upgrade: number; checks: Check[] }) {
  const [all, setAll] = useState(false);
  const trouble = checks.filter((c) => !passes(c) || c.lost > 0);
  const few = trouble.length > 0 ? trouble : checks;
  const shown = all || checks.length <= most ? checks : few.slice(0, most);
  return (
    <>
      <Table words={["check", "frontier"]} numbers={["symptoms", "tests", "run"]}>
        {byName(shown).map((c) => (
          <Row key={c.name} upgrade={upgrade} check={c} />
        ))}
      </Table>
      {shown.length < checks.length && (
        <button type="button" onClick={() => setAll(true)} className="mt-2 text-copper underline underline-offset-2">
          {checks.length - shown.length} more: {trouble.length - Math.min(trouble.length, shown.length)} fail,{" "}
          {checks.length - trouble.length - (trouble.length > 0 ? 0 : shown.length)} pass
        </button>
      )}
    </>
  );
}

/** How many checks are shown where there are many: those that fail first. */
const most = 12;

function passes(check: Check) {
  const run = check.latest ?? check.baseline;
  return run !== undefined && (run.facts.exit ?? 0) === 0;
}

/** The targets of a check stand together, in the order in which the checks were first met. */
function byName(checks: Check[]) {
  const names = [...new Set(checks.map((c) => nameOf(c)[0]))];
  return names.flatMap((name) => checks.filter((c) => nameOf(c)[0] === name));
}

function nameOf(check: Check): [name: string, target: string] {
  const at = check.name.indexOf("@");
  return at < 0 ? [check.name, ""] : [check.name.slice(0, at), check.name.slice(at + 1)];
}

function Row({ upgrade, check }: { upgrade: number; check: Check }) {
  const run = check.latest ?? check.baseline;
  return (
    <tr className="h-8 border-t border-line">
      <td className="whitespace-nowrap pr-2">
        <span className="inline-flex items-center gap-1.5">
          {passes(check) ? (
            <Tick className="size-3.5 text-calm" strokeWidth={2.5} aria-label="passes" />
          ) : (
            <X className="size-3.5 text-alarm" strokeWidth={2.5} aria-label="fails" />
          )}
          {nameOf(check)[0]}
          {nameOf(check)[1] && <span className="text-soft">{nameOf(check)[1]}</span>}
          {!check.required && <span className="text-xs text-soft">informs</span>}
        </span>
      </td>
      <td>{run && <Ladder frontier={run.frontier} passes={passes(check)} />}</td>
      <td className="text-right">{run?.symptoms ?? ""}</td>
      <td className="text-right">
        {(check.passed ?? 0) + (check.failed ?? 0) > 0 && (
          <>
            {check.passed} <span className="text-soft">passed</span>
            {(check.failed ?? 0) > 0 && <span className="text-alarm"> {check.failed} failed</span>}
          </>
        )}
        {check.lost > 0 && <span className="text-alarm"> {check.lost} lost</span>}
      </td>
      <td className="pl-2 text-right text-xs text-soft">
        {run ? (
          <Link to={`/upgrades/${upgrade}/runs/${run.number}`} className="hover:text-copper">
            #{run.number}
            {check.latest ? "" : " baseline"}
          </Link>
        ) : (
          "none"
        )}
      </td>
    </tr>
  );
}

/** The rungs that a run reached. */
export function Ladder({ frontier, passes }: { frontier: string; passes: boolean }) {
  const reached = passes ? phases.length : phases.indexOf(frontier) + 1;
  const text = passes ? "completes" : `got as far as ${frontier || "nothing that could be read"}`;
  return (
    <Hint text={text}>
      <span role="img" aria-label={text} className="inline-flex items-end gap-0.5 align-baseline">
        {phases.map((p, i) => (
          <span
            key={p}
            className={
              i < reached ? (passes ? "bg-calm" : i === reached - 1 ? "bg-alarm" : "bg-soft") : "border border-line"
            }
            style={{ width: 9, height: 4 + i * 1.5 }}
          />
        ))}
        <span className="ml-1.5 text-xs leading-none text-soft">{passes ? "complete" : frontier}</span>
      </span>
    </Hint>
  );
}
