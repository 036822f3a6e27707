import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useRefresh } from "./acts";
import { keys } from "./queries";
import type { components } from "./schema.gen";

/**
 * Follows an upgrade's events. What happened is shown at once, unless the
 * reader holds the page still (the pointer is over a list): then it is counted
 * and waits.
 */
export function useLive(upgrade: number) {
  const [waiting, setWaiting] = useState(0);
  const still = useRef(false);
  const refresh = useRefresh(upgrade);
  const latest = useRef(refresh);
  latest.current = refresh;

  const queries = useQueryClient();
  useEffect(() => {
    // What happened since the head was read is told at once.
    let last = queries.getQueryData<components["schemas"]["Head"]>([...keys.upgrade(upgrade), "head"])?.lastEvent;
    let source: EventSource | undefined;
    const leave = () => {
      source?.close();
      source = undefined;
    };
    // A page that nobody sees holds no connection: browsers have few of them for one service.
    const follow = () => {
      if (document.visibilityState === "hidden") return leave();
      if (source) return;
      source = new EventSource(`/api/v1/upgrades/${upgrade}/events${last === undefined ? "" : `?after=${last}`}`);
      source.onmessage = (e) => {
        last = Number(e.lastEventId) || last;
        if (still.current) setWaiting((n) => n + 1);
        else latest.current();
      };
    };
    follow();
    document.addEventListener("visibilitychange", follow);
    window.addEventListener("pagehide", leave);
    window.addEventListener("pageshow", follow);
    return () => {
      leave();
      document.removeEventListener("visibilitychange", follow);
      window.removeEventListener("pagehide", leave);
      window.removeEventListener("pageshow", follow);
    };
  }, [upgrade, queries]);

  const show = () => {
    setWaiting(0);
    refresh();
  };
  return {
    waiting,
    show,
    hold: {
      onPointerEnter: () => {
        still.current = true;
      },
      onPointerLeave: () => {
        still.current = false;
        if (waiting > 0) show();
      },
    },
  };
}
