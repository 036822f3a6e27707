import { useState } from "react";
import type { CauseDetail } from "../api/client";
import { AddChange } from "./AddChange";
import { CopyButton, Heading } from "./basics";

/** A question about the cause, a report to those who make what moved, and what comes back. */
export function AskOthers({ upgrade, detail }: { upgrade: number; detail: CauseDetail }) {
  const [adding, setAdding] = useState(false);
  const [added, setAdded] = useState("");
  return (
    <div className="no-print" data-part="ask">
      <Heading aside="without your own names and paths">Ask others</Heading>
      <Text title="A question, ready to paste" text={detail.question ?? ""} />
      <Text title="A report upstream" text={detail.upstream ?? ""} />
      <button
        type="button"
        onClick={() => setAdding(!adding)}
        className="mt-1 text-xs text-copper underline underline-offset-2"
      >
        Add what came back
      </button>
      {added && (
        <p className="text-xs text-soft" role="status">
          Added: {added}
        </p>
      )}
      {adding && (
        <div className="mt-2">
          <AddChange
            upgrade={upgrade}
            packages={[...new Set([detail.cause.package, ...detail.links.map((l) => l.change.package)])].filter(
              Boolean,
            )}
            onAdded={(d) => {
              setAdding(false);
              setAdded(d.row.change.title);
            }}
            onCancel={() => setAdding(false)}
          />
        </div>
      )}
    </div>
  );
}

function Text({ title, text }: { title: string; text: string }) {
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-xs text-soft">{title}</summary>
      <div className="mt-1 flex items-start gap-1">
        <pre className="min-w-0 flex-1 whitespace-pre-wrap bg-sheet p-2 text-xs [overflow-wrap:anywhere]">{text}</pre>
        <CopyButton text={text} label={`Copy: ${title}`} />
      </div>
    </details>
  );
}
