import { useMutation } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useSyncExternalStore } from "react";

interface Act {
  text: string;
  undo: () => Promise<unknown>;
}

let last: Act | undefined;
const watching = new Set<() => void>();

function set(act: Act | undefined) {
  last = act;
  for (const w of watching) w();
}

/** Says what was just done, with the way to undo it. */
export function did(text: string, undo: () => Promise<unknown>) {
  set({ text, undo });
}

/** The last act, at the foot of every page, with the button that undoes it. */
export function Undo() {
  const act = useSyncExternalStore(
    (changed) => {
      watching.add(changed);
      return () => watching.delete(changed);
    },
    () => last,
  );
  const undo = useMutation({ mutationFn: () => act?.undo() ?? Promise.resolve(), onSuccess: () => set(undefined) });
  if (!act) return null;
  return (
    <div
      role="status"
      data-part="undo"
      className="no-print fixed bottom-4 left-1/2 z-10 flex max-w-[92vw] -translate-x-1/2 items-center gap-3 rounded border border-line bg-sheet px-3 py-1.5 shadow-md"
    >
      <span className="truncate">{act.text}</span>
      <button
        type="button"
        disabled={undo.isPending}
        onClick={() => undo.mutate()}
        className="text-copper underline underline-offset-2"
      >
        Undo
      </button>
      <button
        type="button"
        aria-label="Close"
        onClick={() => {
          undo.reset();
          set(undefined);
        }}
        className="moves rounded p-1 text-soft hover:bg-wash"
      >
        <X className="size-3.5" aria-hidden="true" />
      </button>
      {undo.error && <span className="text-xs text-alarm">{undo.error.message}</span>}
    </div>
  );
}
