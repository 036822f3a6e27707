import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { keys, useRefresh } from "./queries";
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
    const known = queries.getQueryData<components["schemas"]["Head"]>([...keys.upgrade(upgrade), "head"])?.lastEvent;
    const after = known === undefined ? "" : `?after=${known}`;
    const source = new EventSource(`/api/v1/upgrades/${upgrade}/events${after}`);
    source.onmessage = () => {
      if (still.current) setWaiting((n) => n + 1);
      else latest.current();
    };
    return () => source.close();
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
