import { Check, Circle, CircleDot, Dot, Hourglass, type LucideIcon, Triangle } from "lucide-react";
import type { ChangeRow } from "../api/client";

interface Look {
  word: string;
  icon: LucideIcon;
  tone: string;
  filled?: boolean;
}

const looks: Record<ChangeRow["state"], Look> = {
  failing: { word: "failing", icon: Triangle, tone: "text-alarm", filled: true },
  exposed: { word: "exposed", icon: Circle, tone: "text-amber" },
  handled: { word: "handled", icon: Check, tone: "text-calm" },
  later: { word: "later", icon: Hourglass, tone: "text-slate" },
  "not-used": { word: "not used", icon: Dot, tone: "text-soft" },
};

/** What a change is to the code: the filters offer these in this order. */
export const states = ["failing", "silent", "exposed", "handled", "later", "not-used"] as const;
export type Wanted = (typeof states)[number];

/** The state of a change as the filters know it: a silent risk is one of its own. */
export function stateOf(row: ChangeRow): Wanted {
  return row.silent ? "silent" : row.state;
}

export function lookOf(state: Wanted): Look {
  return state === "silent" ? { word: "silent risk", icon: CircleDot, tone: "text-amber" } : looks[state];
}

/** A change's state, as a shape and a word besides its colour. */
export function ChangeMark({ row }: { row: ChangeRow }) {
  const { word, icon: Icon, tone, filled } = lookOf(stateOf(row));
  return (
    <span className={`inline-flex items-center gap-1 whitespace-nowrap text-xs ${tone}`}>
      <Icon className="size-3 shrink-0" fill={filled ? "currentColor" : "none"} strokeWidth={2.5} aria-hidden="true" />
      {word}
    </span>
  );
}
