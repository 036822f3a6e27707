import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import type { Cause } from "../api/client";
import { NoteLabel } from "./NoteLabel";
import { StandingMark } from "./standing";

/** A line of the list: a cause, or what heads a group of them. */
export type Row = { cause: Cause } | { group: string; count: number };

interface ListProps {
  rows: Row[];
  current: string;
  chosen: string[];
  onOpen: (c: Cause) => void;
  onToggle: (id: string) => void;
}

const rowHeight = 48;
const groupHeight = 32;

/** Thousands of rows, of which those in view are drawn. */
export function CauseRows({ rows, current, chosen, onOpen, onToggle }: ListProps) {
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => (rows[i] && "cause" in rows[i] ? rowHeight : groupHeight),
    overscan: 8,
  });
  const at = rows.findIndex((r) => "cause" in r && r.cause.id === current);
  useEffect(() => {
    if (at >= 0) virtual.scrollToIndex(at, { align: "auto" });
  }, [at, virtual]);
  return (
    <div
      ref={box}
      data-list="causes"
      className="max-h-[70vh] overflow-y-auto border-y border-line lg:max-h-[calc(100vh-9.5rem)]"
    >
      <ol aria-label="Causes" className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index];
          if (!row) return null;
          return (
            <li
              key={"cause" in row ? row.cause.id : row.group}
              className="absolute inset-x-0 top-0"
              style={{ height: item.size, transform: `translateY(${item.start}px)` }}
            >
              {"cause" in row ? (
                <Entry
                  cause={row.cause}
                  open={row.cause.id === current}
                  chosen={chosen.includes(row.cause.id)}
                  onOpen={() => onOpen(row.cause)}
                  onToggle={() => onToggle(row.cause.id)}
                />
              ) : (
                <p className="flex h-full items-end justify-between gap-2 border-b border-line px-2 pb-1 text-xs text-soft">
                  <span className="truncate font-semibold">{row.group}</span>
                  <span>{row.count}</span>
                </p>
              )}
            </li>
          );
        })}
      </ol>
    </div>
  );
}

interface EntryProps {
  cause: Cause;
  open: boolean;
  chosen: boolean;
  onOpen: () => void;
  onToggle: () => void;
}

function Entry({ cause, open, chosen, onOpen, onToggle }: EntryProps) {
  const size = cause.shown + cause.hidden;
  return (
    <div
      className={`grid h-full grid-cols-[1.25rem_minmax(0,1fr)] items-center gap-1 border-b border-line px-2 ${open ? "bg-wash" : "hover:bg-wash"}`}
    >
      <input
        type="checkbox"
        aria-label={`Choose ${cause.id}`}
        checked={chosen}
        onChange={onToggle}
        className="no-print accent-copper"
      />
      <button
        type="button"
        data-cause={cause.id}
        aria-current={open}
        onClick={onOpen}
        className="grid grid-cols-[2.25rem_2rem_minmax(0,1fr)_8rem] items-baseline gap-x-2 text-left"
      >
        <span className="font-mono text-xs text-soft">{cause.id}</span>
        <span className="text-right font-semibold" title={`${size} symptoms`}>
          {size || ""}
        </span>
        <span className="truncate" title={cause.title}>
          {cause.title}
        </span>
        <StandingMark cause={cause} />
        <span className="col-start-3 truncate text-xs text-soft">
          {cause.status === "shown" ? cause.reason : cause.phase}
        </span>
        <NoteLabel link={cause.link} />
      </button>
    </div>
  );
}
