import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { useMatch, useNavigate } from "react-router";
import { client, data } from "../api/client";
import { keys, useUpgrades } from "../api/queries";
import type { components } from "../api/schema.gen";

type Found = components["schemas"]["Found"];

interface Hit {
  kind: string;
  name: string;
  about: string;
  to: string;
}

/** Opens on / and goes to anything by name or number: causes, files, tests, changes, runs, upgrades. */
export function Jump() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const field = (e.target as HTMLElement).closest("input:not([type=checkbox]), textarea, select, [role=dialog]");
      if (e.key !== "/" || e.ctrlKey || e.metaKey || e.altKey || field) return;
      e.preventDefault();
      setTimeout(() => setOpen(true), 50); // so that the key itself is not typed into the field
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="moves inline-flex items-center gap-2 rounded border border-line px-2 py-0.5 text-soft hover:border-copper">
        Go to <kbd className="font-mono text-xs">/</kbd>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-24 z-20 w-[40rem] max-w-[94vw] -translate-x-1/2 rounded border border-line bg-sheet shadow-lg"
        >
          <Dialog.Title className="sr-only">Go to</Dialog.Title>
          <Box onDone={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Box({ onDone }: { onDone: () => void }) {
  const upgrade = Number(useMatch("/upgrades/:upgrade/*")?.params.upgrade ?? 0);
  const [text, setText] = useState("");
  const [wanted, setWanted] = useState("");
  const [chosen, setChosen] = useState(0);
  const navigate = useNavigate();
  useEffect(() => {
    const soon = setTimeout(() => setWanted(text.trim()), 120);
    return () => clearTimeout(soon);
  }, [text]);
  const upgrades = useUpgrades();
  const found = useQuery({
    queryKey: [...keys.upgrade(upgrade), "find", wanted],
    enabled: upgrade > 0 && wanted !== "",
    placeholderData: (before) => before,
    queryFn: () =>
      data(
        client.GET("/upgrades/{upgrade}/find", {
          params: { path: { upgrade }, query: { text: wanted.slice(0, 200) } },
        }),
      ),
  });
  const others = (upgrades.data ?? [])
    .filter((r) => `${r.upgrade.name} ${r.upgrade.project}`.toLowerCase().includes(wanted.toLowerCase()))
    .filter((r) => r.upgrade.id !== upgrade)
    .map((r) => ({ kind: "upgrade", name: r.upgrade.name, about: r.upgrade.project, to: `/upgrades/${r.upgrade.id}` }));
  const hits: Hit[] = [
    ...(wanted ? (found.data ?? []).map((f) => ({ ...f, to: wayTo(upgrade, f) })) : []),
    ...others.slice(0, 8),
  ];
  const go = (hit: Hit | undefined) => {
    if (!hit) return;
    onDone();
    navigate(hit.to);
  };
  const press = (e: React.KeyboardEvent) => {
    if (e.key === "ArrowDown") setChosen(Math.min(chosen + 1, hits.length - 1));
    else if (e.key === "ArrowUp") setChosen(Math.max(chosen - 1, 0));
    else if (e.key === "Enter") go(hits[chosen]);
    else return;
    e.preventDefault();
  };
  return (
    <>
      <input
        // biome-ignore lint/a11y/noAutofocus: it was opened to be typed into
        autoFocus
        role="combobox"
        aria-expanded={hits.length > 0}
        aria-controls="found"
        aria-activedescendant={hits[chosen] ? `found-${chosen}` : undefined}
        aria-label="A name or number"
        placeholder={
          upgrade > 0 ? "A cause, file, test, change, run or upgrade, by name or number" : "An upgrade, by name"
        }
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setChosen(0);
        }}
        onKeyDown={press}
        className="w-full border-b border-line bg-transparent px-4 py-2.5 outline-none"
      />
      <div id="found" role="listbox" aria-label="What was found" className="max-h-96 overflow-y-auto py-1">
        {hits.map((h, i) => (
          // biome-ignore lint/a11y/useFocusableInteractive: as above
          // biome-ignore lint/a11y/useKeyWithClickEvents: as above
          <div
            key={h.kind + h.to + h.name + h.about}
            id={`found-${i}`}
            role="option"
            aria-selected={i === chosen}
            ref={(e) => {
              if (i === chosen) e?.scrollIntoView({ block: "nearest" });
            }}
            onMouseMove={() => setChosen(i)}
            onClick={() => go(h)}
            className={`grid cursor-pointer grid-cols-[4rem_minmax(0,1fr)_minmax(0,14rem)] items-baseline gap-2 px-4 py-1 ${i === chosen ? "bg-wash" : ""}`}
          >
            <span className="text-xs text-soft">{h.kind}</span>
            <span className="truncate">{h.name}</span>
            <span className="truncate text-right text-xs text-soft">{h.about}</span>
          </div>
        ))}
      </div>
      {wanted !== "" && hits.length === 0 && !found.isFetching && (
        <p className="px-4 pb-3 text-soft">Nothing here has that name or number.</p>
      )}
      {found.error && <p className="px-4 pb-3 text-alarm">{found.error.message}</p>}
    </>
  );
}

function wayTo(upgrade: number, f: Found) {
  const base = `/upgrades/${upgrade}`;
  switch (f.kind) {
    case "run":
      return `${base}/runs/${f.key}`;
    case "change":
      return `${base}/notes?change=${f.key}`;
    case "test":
      return f.key ? `${base}/causes/${f.key}` : `${base}/tests?name=${encodeURIComponent(f.name)}`;
    default:
      return `${base}/causes/${f.key}`;
  }
}
