import { Check, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { useVouch } from "../api/acts";
import type { Preparation } from "../api/client";
import { Ask } from "./Ask";
import { Heading } from "./basics";

const words = new Set(["branch", "backup", "clean"]);

/** What has to be done before the bump. */
export function Prepare({ upgrade, list }: { upgrade: number; list: Preparation[] }) {
  if (list.length === 0) return null;
  const left = list.filter((p) => !p.done).length;
  return (
    <section data-list="preparation">
      <Heading aside={left === 0 ? "all done: bump, then record every check again" : `${left} left`}>
        Before the bump
      </Heading>
      <ul className="space-y-1.5">
        {list.map((p) => (
          <Item key={p.key} upgrade={upgrade} item={p} />
        ))}
      </ul>
    </section>
  );
}

function Item({ upgrade, item }: { upgrade: number; item: Preparation }) {
  const [asking, setAsking] = useState(false);
  const vouch = useVouch(upgrade);
  return (
    <li className="flex items-start gap-2">
      {item.done ? (
        <Check className="mt-1 size-3.5 shrink-0 text-calm" aria-label="done" />
      ) : (
        <TriangleAlert className="mt-1 size-3.5 shrink-0 text-copper" aria-label="left" />
      )}
      <div className="min-w-0 flex-1">
        {item.text}
        {item.hint && <p className="text-xs text-soft [overflow-wrap:anywhere]">{item.hint}</p>}
        {!item.done && words.has(item.key) && !asking && (
          <button
            type="button"
            data-vouch={item.key}
            onClick={() => setAsking(true)}
            className="no-print text-xs text-copper underline underline-offset-2"
          >
            Vouch for it
          </button>
        )}
        {asking && (
          <Ask
            fields={[{ name: "reason", label: "Where it is, or why there is no need" }]}
            act="Vouch"
            busy={vouch.isPending}
            error={vouch.error?.message}
            onDone={(v) =>
              vouch.mutate({ about: item.key, reason: v.reason ?? "" }, { onSuccess: () => setAsking(false) })
            }
            onCancel={() => setAsking(false)}
          />
        )}
      </div>
    </li>
  );
}
