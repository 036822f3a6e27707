import { Hourglass, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { useSettleDebt } from "../api/acts";
import type { Debt } from "../api/client";
import { useDebt } from "../api/queries";
import { Ask } from "./Ask";
import { CopyButton } from "./basics";

/** Debts, each with the code that it lives in and the patch that takes it out. */
export function DebtList({ upgrade, debts }: { upgrade: number; debts: Debt[] }) {
  return (
    <ul className="divide-y divide-line border-y border-line" data-list="debts">
      {debts.map((d) => (
        <Row key={d.id} upgrade={upgrade} debt={d} />
      ))}
    </ul>
  );
}

function Row({ upgrade, debt }: { upgrade: number; debt: Debt }) {
  const [open, setOpen] = useState(false);
  const [paying, setPaying] = useState(false);
  const settle = useSettleDebt(upgrade);
  const detail = useDebt(upgrade, debt.id, open);
  const Mark = debt.isDue ? TriangleAlert : Hourglass;
  return (
    <li className={`flex items-start gap-2 py-2 ${debt.settled ? "text-soft line-through" : ""}`} data-debt={debt.id}>
      <Mark className={`mt-1 size-3.5 shrink-0 ${debt.isDue ? "text-alarm" : "text-soft"}`} aria-hidden="true" />
      <div className="min-w-0 flex-1">
        <p className="[overflow-wrap:anywhere]">{debt.text}</p>
        <p className="text-xs text-soft">
          {debt.isDue ? <span className="text-alarm">due: {debt.why}</span> : `until ${debt.due || "nobody said"}`} ·{" "}
          {debt.kind} · {debt.upgradeName} · {debt.author}
          {debt.how && ` · ${debt.how}`}
        </p>
        {debt.code && (
          <details onToggle={(e) => setOpen(e.currentTarget.open)}>
            <summary className="cursor-pointer text-xs text-soft">
              {debt.file}
              {detail.data &&
                (detail.data.line > 0 ? `, now ${detail.data.file}:${detail.data.line}` : ", gone by now")}
            </summary>
            <pre className="mt-1 whitespace-pre-wrap [overflow-wrap:anywhere] bg-sheet p-2 text-xs">{debt.code}</pre>
            {detail.data?.patch && (
              <div className="mt-1 flex items-start gap-1">
                <pre className="min-w-0 flex-1 whitespace-pre-wrap [overflow-wrap:anywhere] bg-sheet p-2 text-xs">
                  {detail.data.patch}
                </pre>
                <CopyButton text={detail.data.patch} label="Copy the patch that takes it out" />
              </div>
            )}
          </details>
        )}
        {paying && (
          <Ask
            fields={[{ name: "how", label: "How was it paid?" }]}
            act="Paid"
            busy={settle.isPending}
            error={settle.error?.message}
            onDone={(v) => settle.mutate({ debt: debt.id, how: v.how ?? "" })}
            onCancel={() => setPaying(false)}
          />
        )}
      </div>
      {!debt.settled && !paying && (
        <button
          type="button"
          data-act="pay"
          onClick={() => setPaying(true)}
          className="moves no-print shrink-0 rounded border border-line px-2 py-0.5 hover:border-copper"
        >
          Paid
        </button>
      )}
    </li>
  );
}
