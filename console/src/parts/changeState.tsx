import { Check, Circle, CircleDashed, CircleDot, Dot, Hourglass, type LucideIcon, Triangle } from "lucide-react";
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
export const states = ["failing", "silent", "perhaps", "exposed", "handled", "later", "not-used"] as const;
export type Wanted = (typeof states)[number];

const risks: Record<"silent" | "perhaps", Look> = {
  silent: { word: "silent risk", icon: CircleDot, tone: "text-amber" },
  perhaps: { word: "perhaps a risk", icon: CircleDashed, tone: "text-soft" },
};

/** The state of a change as the filters know it: silent risks are one of their own, and so are those that may be one. */
export function stateOf(row: ChangeRow): Wanted {
  if (row.silent) return "silent";
  return row.perhaps ? "perhaps" : row.state;
}

export function lookOf(state: Wanted): Look {
  return state === "silent" || state === "perhaps" ? risks[state] : looks[state];
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
