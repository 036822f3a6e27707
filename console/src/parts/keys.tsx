import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { createRoot, type Root } from "react-dom/client";

type Keys = Record<string, [what: string, act: () => void]>;

/** Acts on single keys, outside of fields; ? lists them. */
export function useKeys(keys: Keys) {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement;
      if (
        e.ctrlKey ||
        e.metaKey ||
        e.altKey ||
        target.closest("input:not([type=checkbox]), textarea, select, [role=dialog]")
      )
        return;
      if (e.key === "?") {
        e.preventDefault();
        help(latest.current);
        return;
      }
      const found = latest.current[e.key];
      if (!found) return;
      e.preventDefault();
      found[1]();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, []);
}

let root: Root | undefined;

function help(keys: Keys) {
  if (!root) {
    const place = document.createElement("div");
    document.body.append(place);
    root = createRoot(place);
  }
  root.render(<Help key={Date.now()} keys={keys} />);
}

function Help({ keys }: { keys: Keys }) {
  const [open, setOpen] = useState(true);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-1/3 w-80 -translate-x-1/2 rounded border border-line bg-sheet p-4 shadow-lg"
        >
          <Dialog.Title className="mb-2 font-semibold">Keys of this page</Dialog.Title>
          <dl className="grid grid-cols-[3rem_1fr] gap-y-1">
            {Object.entries(keys).map(([key, [what]]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd className="rounded border border-line px-1.5 font-mono text-xs">{key}</kbd>
                </dt>
                <dd className="text-soft">{what}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="mt-4 text-copper underline underline-offset-2">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
