import type { useLive } from "../api/live";

/** What came while the list was held still under somebody's hand, to be shown at will. */
export function Newer({ live }: { live: ReturnType<typeof useLive> }) {
  if (live.waiting === 0) return null;
  return (
    <button
      type="button"
      onClick={live.show}
      className="mb-2 w-full rounded border border-copper px-2 py-1 text-left text-copper"
    >
      {live.waiting} newer: show
    </button>
  );
}
