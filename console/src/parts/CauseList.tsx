import { useEffect, useRef } from "react";
import { Link } from "react-router";
import type { Cause } from "../api/client";
import { NoteLabel } from "./NoteLabel";
import { StandingMark } from "./standing";

interface Props {
  upgrade: number;
  causes: Cause[];
  selected?: string;
}

/** Causes in their order, a row each. */
export function CauseList({ upgrade, causes, selected }: Props) {
  if (causes.length === 0) return null;
  return (
    <ol className="divide-y divide-line border-y border-line" data-list="causes">
      {causes.map((c) => (
        <Row key={c.id} upgrade={upgrade} cause={c} selected={c.id === selected} />
      ))}
    </ol>
  );
}

function Row({ upgrade, cause, selected }: { upgrade: number; cause: Cause; selected: boolean }) {
  const ref = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    if (selected) ref.current?.focus();
  }, [selected]);
  const size = cause.shown + cause.hidden;
  return (
    <li>
      <Link
        ref={ref}
        to={`/upgrades/${upgrade}/causes/${cause.id}`}
        data-cause={cause.id}
        className="moves grid grid-cols-[2.5rem_2.5rem_1fr] items-baseline gap-x-3 px-2 py-1.5 hover:bg-wash sm:grid-cols-[2.5rem_2.5rem_minmax(0,1fr)_12rem_12rem]"
      >
        <span className="font-mono text-xs text-soft">{cause.id}</span>
        <span className="text-right font-semibold" title={`${size} symptoms`}>
          {size || ""}
        </span>
        <span className="min-w-0">
          <span className="block truncate" title={cause.title}>
            {cause.title}
          </span>
          {cause.status === "shown" && <span className="block truncate text-xs text-soft">{cause.reason}</span>}
        </span>
        <span className="col-start-3 sm:col-start-auto">
          <StandingMark cause={cause} />
        </span>
        <span className="col-start-3 truncate text-xs text-soft sm:col-start-auto sm:text-right">
          <NoteLabel link={cause.link} />
        </span>
      </Link>
    </li>
  );
}
