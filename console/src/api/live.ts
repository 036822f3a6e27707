import { useEffect, useRef, useState } from "react";
import { useRefresh } from "./queries";

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

  useEffect(() => {
    const source = new EventSource(`/api/v1/upgrades/${upgrade}/events`);
    source.onmessage = () => {
      if (still.current) setWaiting((n) => n + 1);
      else latest.current();
    };
    return () => source.close();
  }, [upgrade]);

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
