import { TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";
import { useParams } from "react-router";
import type { Moved, Need, Versions } from "../api/client";
import { useLive } from "../api/live";
import { useHead, useVersions } from "../api/queries";
import { Heading, Skeleton, Trouble } from "../parts/basics";
import { Readiness } from "../parts/Readiness";

/** What moved between the baseline and the latest run, and why. */
export function VersionsPage() {
  const upgrade = Number(useParams().upgrade);
  const head = useHead(upgrade);
  const versions = useVersions(upgrade);
  useLive(upgrade);
  const error = head.error ?? versions.error;
  if (error) return <Trouble error={error} retry={() => versions.refetch()} />;
  if (!head.data || !versions.data) return <Skeleton rows={8} />;
  return (
    <>
      <title>{`Versions of ${head.data.upgrade.name} · Unicausa`}</title>
      <div className="grid gap-8 lg:grid-cols-2">
        <Shown versions={versions.data} />
        <Readiness upgrade={upgrade} />
      </div>
    </>
  );
}

function Shown({ versions }: { versions: Versions }) {
  const { moves, held, unmet, warnings, files } = versions;
  const intended = moves.filter((m) => m.intended);
  const direct = moves.filter((m) => !m.intended && m.direct);
  const along = moves.filter((m) => !m.intended && !m.direct);
  return (
    <div className="min-w-0 space-y-8">
      {warnings.map((w) => (
        <Loud key={w}>{w}</Loud>
      ))}
      {held.map((h) => (
        <Loud key={h.name}>
          {h.name} is held at {h.at}, not {h.to}
          <ul className="mt-1 space-y-0.5 text-soft">
            {h.by.map((n) => (
              <li key={n.package}>
                <Wish need={n} />
              </li>
            ))}
          </ul>
        </Loud>
      ))}
      <Part title="Intended" moves={intended} empty="Nothing that the leg names has moved." />
      {unmet.length > 0 && (
        <section>
          <Heading>Unmet requirements</Heading>
          <ul className="space-y-1">
            {unmet.map((n) => (
              <li key={`${n.package} ${n.name} ${n.kind}`}>
                <Wish need={n} />
                <span className="text-alarm">{n.have ? `, ${n.have} is here` : ", none is here"}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {direct.length > 0 && <Part title="Also moved, named in a manifest" moves={direct} />}
      {along.length > 0 && <Part title="Pulled in" moves={along} />}
      <p className="text-xs text-soft">{files.length > 0 ? `Read from ${files.join(", ")}` : ""}</p>
    </div>
  );
}

function Loud({ children }: { children: ReactNode }) {
  return (
    <div role="alert" className="flex gap-2 border-l-2 border-alarm pl-3">
      <TriangleAlert className="mt-0.5 size-4 shrink-0 text-alarm" aria-hidden="true" />
      <div>{children}</div>
    </div>
  );
}

function Wish({ need }: { need: Need }) {
  return (
    <>
      <span className="font-mono text-xs">{need.package}</span> wants{" "}
      <span className="font-mono text-xs">
        {need.name} {need.range}
      </span>
      <span className="text-xs text-soft"> ({need.kind})</span>
    </>
  );
}

function Part({ title, moves, empty }: { title: string; moves: Moved[]; empty?: string }) {
  return (
    <section>
      <Heading aside={moves.length > 0 ? String(moves.length) : ""}>{title}</Heading>
      {moves.length === 0 && <p className="text-soft">{empty}</p>}
      <table className="w-full">
        <tbody>
          {moves.map((m) => (
            <tr key={`${m.ecosystem} ${m.name}`} className="border-t border-line align-baseline">
              <td className="w-24 py-1.5 pr-4 text-xs text-soft">{m.change}</td>
              <td className="py-1.5 pr-4 font-mono text-xs [overflow-wrap:anywhere]">
                {m.name}
                {m.was && <span className="text-soft"> was {m.was}</span>}
                {m.path.length > 0 && <span className="block text-soft">by {m.path.join(" › ")}</span>}
              </td>
              <td className="whitespace-nowrap py-1.5 text-right font-mono text-xs tabular-nums">
                {m.from && <span className="text-soft">{m.from}</span>}
                {m.from && m.to && <span className="text-copper"> → </span>}
                {m.to}
              </td>
              <td className="hidden w-24 py-1.5 pl-4 text-xs text-soft sm:table-cell">{m.ecosystem}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
