import { Check, CircleDashed, type LucideIcon, X } from "lucide-react";
import { Link } from "react-router";
import { useReady } from "../api/queries";
import type { components } from "../api/schema.gen";
import { Command, Heading, Skeleton, Trouble } from "./basics";

export type Dependency = components["schemas"]["Dependency"];

const looks: Record<Dependency["state"], { word: string; icon: LucideIcon; tone: string }> = {
  "not-ready": { word: "not ready", icon: X, tone: "text-alarm" },
  unknown: { word: "cannot tell", icon: CircleDashed, tone: "text-soft" },
  ready: { word: "ready", icon: Check, tone: "text-calm" },
};

/** Who accepts what the leg moves to, and who holds it back. */
export function Readiness({ upgrade }: { upgrade: number }) {
  const ready = useReady(upgrade);
  if (ready.error) return <Trouble error={ready.error} retry={() => ready.refetch()} />;
  if (!ready.data) return <Skeleton rows={4} />;
  const { dependencies, asked } = ready.data;
  const say = dependencies.filter((d) => d.of);
  const silent = dependencies.filter((d) => !d.of);
  return (
    <section className="min-w-0" data-part="ready">
      <Heading aside="by the ranges in the lock file">Who is ready</Heading>
      {say.length === 0 && <p className="text-soft">No dependency states a range for what moves.</p>}
      <List dependencies={say} />
      {silent.length > 0 && (
        <details className="mt-3">
          <summary className="cursor-pointer text-soft">
            {silent.length} {silent.length === 1 ? "states" : "state"} no range for what moves
          </summary>
          <List dependencies={silent} />
        </details>
      )}
      <p className="mt-3 text-xs text-soft">
        {asked > 0 ? (
          <>
            The newest versions are those of{" "}
            <Link to={`/upgrades/${upgrade}/runs/${asked}`} className="text-copper underline underline-offset-2">
              run {asked}
            </Link>
            .
          </>
        ) : (
          <span className="flex flex-wrap items-center gap-2">
            Newest versions are not known yet: <Command text="unicausa ready --ask" />
          </span>
        )}
      </p>
    </section>
  );
}

function List({ dependencies }: { dependencies: Dependency[] }) {
  return (
    <ul className="divide-y divide-line border-y border-line">
      {dependencies.map((d) => (
        <li key={`${d.name} ${d.has} ${d.of}`} className="py-1.5">
          <DependencyLine dependency={d} />
        </li>
      ))}
    </ul>
  );
}

/** One dependency: its state, what it wants, and who keeps it where it is. */
export function DependencyLine({ dependency: d }: { dependency: Dependency }) {
  const { word, icon: Icon, tone } = looks[d.state];
  return (
    <div className="grid grid-cols-[6rem_minmax(0,1fr)] gap-x-2">
      <span className={`inline-flex items-center gap-1 text-xs ${tone}`}>
        <Icon className="size-3 shrink-0" strokeWidth={2.5} aria-hidden="true" />
        {word}
      </span>
      <span className="[overflow-wrap:anywhere]">
        <span className="font-mono text-xs">
          {d.name} {d.has}
        </span>
        {d.of && (
          <>
            {" "}
            wants{" "}
            <span className="font-mono text-xs">
              {d.of} {d.wants}
            </span>
          </>
        )}
        {d.newest && d.newest !== d.has && <span className="text-soft">, newest is {d.newest}</span>}
        {d.by.map((n) => (
          <span key={n.package} className="block text-xs text-soft">
            held back: {n.package} wants {n.name} {n.range}
          </span>
        ))}
      </span>
    </div>
  );
}
