import {
  Check,
  CircleDashed,
  CircleSlash,
  Diamond,
  Dot,
  Equal,
  Hourglass,
  type LucideIcon,
  RotateCw,
  Triangle,
  Wrench,
} from "lucide-react";
import type { Cause } from "../api/client";

interface Standing {
  word: string;
  icon: LucideIcon;
  tone: string;
  filled?: boolean;
}

/** Where a cause stands, as a shape and a word besides its colour. */
export function standing(cause: Cause): Standing {
  const decision = cause.decision;
  if (cause.into) return { word: `one with ${cause.into}`, icon: Equal, tone: "text-soft" };
  if (cause.status === "cleared") return { word: "cleared", icon: Check, tone: "text-calm" };
  switch (decision?.kind) {
    case "defer":
      return { word: decision.due ? `deferred to ${decision.due}` : "deferred", icon: Hourglass, tone: "text-slate" };
    case "wait":
      return { word: decision.due ? `waits for ${decision.due}` : "waits", icon: Hourglass, tone: "text-slate" };
    case "accept":
      return { word: "accepted", icon: Equal, tone: "text-slate" };
    case "dismiss":
      return { word: "dismissed", icon: CircleSlash, tone: "text-soft" };
  }
  if (cause.known) return { word: "known before", icon: Dot, tone: "text-soft" };
  if (cause.status === "hidden") return { word: "out of sight", icon: CircleDashed, tone: "text-amber" };
  if (decision?.kind === "fix") {
    return decision.outcome === "disproved"
      ? { word: "fix disproved", icon: Wrench, tone: "text-alarm" }
      : { word: "fix claimed", icon: Wrench, tone: "text-amber" };
  }
  if (cause.returned) return { word: "returned", icon: RotateCw, tone: "text-alarm" };
  if (cause.uncovered) return { word: "uncovered", icon: Diamond, tone: "text-amber" };
  return { word: "new", icon: Triangle, tone: "text-alarm", filled: true };
}

export function StandingMark({ cause }: { cause: Cause }) {
  const { word, icon: Icon, tone, filled } = standing(cause);
  return (
    <span className={`inline-flex max-w-full items-center gap-1 text-xs ${tone}`}>
      <Icon className="size-3 shrink-0" fill={filled ? "currentColor" : "none"} strokeWidth={2.5} aria-hidden="true" />
      <span className="truncate" title={word}>
        {word}
      </span>
    </span>
  );
}
