import { ArrowRight } from "lucide-react";
import { Link } from "react-router";
import type { CauseDetail } from "../api/client";
import { Heading } from "./basics";

/** What to do about a cause, first things first. */
export function Steps({ upgrade, steps }: { upgrade: number; steps: CauseDetail["steps"] }) {
  if (steps.length === 0) return null;
  return (
    <div>
      <Heading>What to do next</Heading>
      <ol className="space-y-1" data-list="steps">
        {steps.map((s) => (
          <li key={s.kind + s.text} className="grid grid-cols-[1rem_1fr] gap-1">
            <ArrowRight className="mt-1 size-3.5 text-copper" aria-hidden="true" />
            <span className="min-w-0 [overflow-wrap:anywhere]">
              {s.text}{" "}
              {s.kind === "rename" && s.change && (
                <Link
                  to={`/upgrades/${upgrade}/notes?change=${s.change}`}
                  className="text-xs text-copper underline underline-offset-2"
                >
                  see the patch
                </Link>
              )}
              {(s.places?.length ?? 0) > 1 && (
                <details>
                  <summary className="cursor-pointer text-xs text-soft">{s.places?.length} files</summary>
                  <ul className="font-mono text-xs">
                    {s.places?.map((p) => (
                      <li key={p}>{p}</li>
                    ))}
                  </ul>
                </details>
              )}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
