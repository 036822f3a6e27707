import { useState } from "react";
import { useParams } from "react-router";
import { useAddDebt } from "../api/acts";
import type { FoundDebt } from "../api/client";
import { useLive } from "../api/live";
import { useDebts, useFoundDebts, useHead } from "../api/queries";
import { Ask } from "../parts/Ask";
import { Command, Heading, Skeleton, Trouble } from "../parts/basics";
import { DebtList } from "../parts/DebtList";

/** What is put off in the project, and code that puts something off and stands in no debt. */
export function DebtsPage() {
  const upgrade = Number(useParams().upgrade);
  const head = useHead(upgrade);
  const debts = useDebts(upgrade);
  const found = useFoundDebts(upgrade);
  useLive(upgrade);
  const error = head.error ?? debts.error ?? found.error;
  if (error) return <Trouble error={error} retry={() => debts.refetch()} />;
  if (!head.data || !debts.data || !found.data) return <Skeleton rows={8} />;
  const open = debts.data.filter((d) => !d.settled);
  const settled = debts.data.filter((d) => d.settled);
  const due = open.filter((d) => d.isDue).length;
  return (
    <>
      <title>{`Debts of ${head.data.upgrade.project} · Unicausa`}</title>
      <section>
        <Heading aside={due > 0 ? `${due} due now` : "of the whole project, whatever upgrade they come from"}>
          {open.length === 1 ? "1 debt is open" : `${open.length} debts are open`}
        </Heading>
        {open.length === 0 ? (
          <div className="space-y-2 text-soft">
            <p>Nothing is put off. A decision to defer or to wait becomes a debt here, and so does a workaround:</p>
            <Command text='unicausa decide C3 defer --reason WHY --due "jar 6.0.0" --workaround shelf.go:12-18' />
          </div>
        ) : (
          <DebtList upgrade={upgrade} debts={open} />
        )}
      </section>
      {found.data.length > 0 && (
        <section className="mt-8">
          <Heading aside="new since the baseline, in no debt: each keeps the gate shut">Put off in the code</Heading>
          <ul className="divide-y divide-line border-y border-line" data-list="found">
            {found.data.map((f) => (
              <Found key={f.key} upgrade={upgrade} found={f} />
            ))}
          </ul>
        </section>
      )}
      {settled.length > 0 && (
        <details className="mt-8">
          <summary className="cursor-pointer text-soft">{settled.length} settled</summary>
          <DebtList upgrade={upgrade} debts={settled} />
        </details>
      )}
    </>
  );
}

function Found({ upgrade, found }: { upgrade: number; found: FoundDebt }) {
  const [asking, setAsking] = useState(false);
  const add = useAddDebt(upgrade);
  return (
    <li className="py-2">
      <div className="flex items-start gap-4">
        <div className="min-w-0 flex-1">
          <p>
            <span className="font-mono text-xs">
              {found.file}:{found.line}
            </span>{" "}
            <span className="text-soft">{found.what}</span>
          </p>
          <pre className="whitespace-pre-wrap [overflow-wrap:anywhere] bg-sheet px-2 py-1 text-xs">{found.code}</pre>
        </div>
        {!asking && (
          <button
            type="button"
            onClick={() => setAsking(true)}
            className="moves no-print shrink-0 rounded border border-line px-2 py-0.5 hover:border-copper"
          >
            Write it down
          </button>
        )}
      </div>
      {asking && (
        <Ask
          fields={[
            { name: "text", label: "What is put off, and why?" },
            { name: "due", label: "Until when? A date, or a package and its version" },
          ]}
          act="Write down"
          busy={add.isPending}
          error={add.error?.message}
          onDone={(v) =>
            add.mutate({
              kind: found.kind as "suppression" | "skipped-test" | "shim",
              text: v.text ?? "",
              due: v.due ?? "",
              file: found.file,
              code: found.code,
            })
          }
          onCancel={() => setAsking(false)}
        />
      )}
    </li>
  );
}
