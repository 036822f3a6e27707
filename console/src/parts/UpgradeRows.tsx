import { DoorClosed, DoorOpen } from "lucide-react";
import { Link } from "react-router";
import type { UpgradeRow } from "../api/client";
import { BeginUpgrade } from "./BeginUpgrade";
import { Sparkline } from "./Sparkline";

/** All upgrades, a row each; the act that begins one stands below them. */
export function UpgradeRows({ rows }: { rows: UpgradeRow[] }) {
  return (
    <>
      {rows.length > 0 && (
        <ul className="divide-y divide-line border-y border-line">
          {rows.map((row) => (
            <Row key={row.upgrade.id} row={row} />
          ))}
        </ul>
      )}
      <BeginUpgrade first={rows.length === 0} />
    </>
  );
}

function Row({ row }: { row: UpgradeRow }) {
  const { upgrade, gate } = row;
  return (
    <li>
      <Link
        to={`/upgrades/${upgrade.id}`}
        className="moves grid grid-cols-[1fr_auto] items-center gap-x-6 gap-y-1 px-2 py-3 hover:bg-wash sm:grid-cols-[7rem_1fr_9rem_8rem_6rem]"
      >
        <span className={`flex items-center gap-1.5 ${gate.open ? "text-calm" : "text-alarm"}`}>
          {gate.open ? (
            <DoorOpen className="size-4" aria-hidden="true" />
          ) : (
            <DoorClosed className="size-4" aria-hidden="true" />
          )}
          gate {gate.open ? "open" : "shut"}
        </span>
        <span className="col-span-2 sm:col-span-1">
          <span className="font-semibold">{upgrade.name}</span> <span className="text-soft">{upgrade.project}</span>
          <span className="block text-xs text-soft">
            {upgrade.leg.moves.map((m) => `${m.package} ${m.from} → ${m.to}`).join(", ")}
          </span>
        </span>
        <Sparkline values={row.history} />
        <span className="text-right">
          {row.causesLeft} {row.causesLeft === 1 ? "cause" : "causes"} left
        </span>
        <span className="text-right text-xs text-soft">
          {row.runs} {row.runs === 1 ? "run" : "runs"}
        </span>
      </Link>
    </li>
  );
}
