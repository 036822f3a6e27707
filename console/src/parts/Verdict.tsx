import { DoorClosed, DoorOpen } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { useTakeWordBack, useVouch } from "../api/acts";
import type { GateReason, Overview } from "../api/client";
import { useWords } from "../api/queries";
import { Ask } from "./Ask";

/** The gate in a sentence, with its reasons, each a link, and the words that people gave. */
export function Verdict({ overview }: { overview: Overview }) {
  const { gate, upgrade } = overview;
  const decided = overview.counts.open;
  const Door = gate.open ? DoorOpen : DoorClosed;
  const tone = gate.open ? "text-calm" : "text-alarm";
  const first = gate.reasons.filter((r) => !r.cause);
  const rest = gate.reasons.filter((r) => r.cause);
  const keep = rest.length + (gate.more ?? 0);
  return (
    <div className={`flex items-start gap-3 border-l-2 pl-4 ${gate.open ? "border-calm" : "border-alarm"}`}>
      <Door className={`mt-0.5 size-5 shrink-0 ${tone}`} aria-hidden="true" />
      <div className="min-w-0 flex-1">
        {gate.open ? (
          <p>
            <span className={`font-semibold ${tone}`}>The gate is open.</span> Everything that passed in the baseline
            passes again{decided > 0 && `; ${decided} ${decided === 1 ? "cause is" : "causes are"} left on purpose`}.
          </p>
        ) : (
          <p>
            <span className={`font-semibold ${tone}`}>The gate is shut</span>
            {keep > 0 && `: ${keep} ${keep === 1 ? "cause keeps" : "causes keep"} it so`}.
          </p>
        )}
        <Reasons upgrade={upgrade.id} reasons={first} />
        {rest.length > 0 && (
          <details>
            <summary className="cursor-pointer text-soft">each reason</summary>
            <Reasons upgrade={upgrade.id} reasons={rest} />
            {(gate.more ?? 0) > 0 && (
              <Link
                to={`/upgrades/${upgrade.id}/causes?show=undecided`}
                className="text-copper underline underline-offset-2"
              >
                and {gate.more} more causes
              </Link>
            )}
          </details>
        )}
        {gate.vouched.length > 0 && <Vouched overview={overview} />}
      </div>
    </div>
  );
}

/** Many reasons of one kind are folded behind the first few. */
const most = 6;

function Reasons({ upgrade, reasons }: { upgrade: number; reasons: GateReason[] }) {
  const [all, setAll] = useState(false);
  const shown = all ? reasons : reasons.slice(0, most);
  return (
    <ul className="text-soft" data-list="reasons">
      {shown.map((r) => (
        <Reason key={r.text} upgrade={upgrade} reason={r} />
      ))}
      {shown.length < reasons.length && (
        <li>
          <button type="button" onClick={() => setAll(true)} className="text-copper underline underline-offset-2">
            and {reasons.length - shown.length} more
          </button>
        </li>
      )}
    </ul>
  );
}

function Reason({ upgrade, reason }: { upgrade: number; reason: GateReason }) {
  const [asking, setAsking] = useState(false);
  const vouch = useVouch(upgrade);
  const key = reason.key;
  return (
    <li data-reason={reason.code}>
      {reason.path ? (
        <Link to={`/upgrades/${upgrade}${reason.path}`} className="hover:text-copper">
          {reason.text}
        </Link>
      ) : (
        reason.text
      )}{" "}
      {key && !asking && (
        <button
          type="button"
          data-act="vouch"
          onClick={() => setAsking(true)}
          className="no-print text-xs text-copper underline underline-offset-2"
        >
          Vouch for it
        </button>
      )}
      {key && asking && (
        <Ask
          fields={[{ name: "reason", label: "What did you look at?" }]}
          act="Vouch"
          busy={vouch.isPending}
          error={vouch.error?.message}
          onDone={(v) => vouch.mutate({ about: key, reason: v.reason ?? "" })}
          onCancel={() => setAsking(false)}
        />
      )}
    </li>
  );
}

function Vouched({ overview }: { overview: Overview }) {
  const { gate, upgrade } = overview;
  const words = useWords(upgrade.id).data ?? [];
  const back = useTakeWordBack(upgrade.id);
  return (
    <details className="text-soft">
      <summary className="cursor-pointer">
        {gate.vouched.length} {gate.vouched.length === 1 ? "reason is" : "reasons are"} vouched for
      </summary>
      <ul>
        {gate.vouched.map((v) => {
          const word = words.find((w) => w.about === v.reason.key && !w.undone);
          return (
            <li key={v.reason.text}>
              {v.reason.text}: <span className="text-ink">{v.word}</span> <span className="text-xs">{v.author}</span>{" "}
              {word && (
                <button
                  type="button"
                  disabled={back.isPending}
                  onClick={() => back.mutate(word.id)}
                  className="no-print text-xs text-copper underline underline-offset-2"
                >
                  Undo
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </details>
  );
}
