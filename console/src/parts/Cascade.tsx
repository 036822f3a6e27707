import type { Symptom } from "../api/client";
import { Heading, Middle } from "./basics";

/** What only follows from the cause, as a tree: how it follows, then what does. */
export function Cascade({ symptoms }: { symptoms: Symptom[] }) {
  const shown = symptoms.filter((s) => s.status !== "cleared");
  const followers = shown.filter((s) => s.follower);
  const roots = shown.filter((s) => !s.follower);
  const root = roots[0];
  if (followers.length === 0 || !root) return null;
  const ways = new Map<string, Symptom[]>();
  for (const s of followers) {
    const way = s.because ? `${s.because.what} ${s.because.value}`.trim() : "follows";
    ways.set(way, [...(ways.get(way) ?? []), s]);
  }
  return (
    <div data-list="cascade">
      <Heading aside={`${shown.length} would go away`}>What follows from it</Heading>
      <p className="truncate" title={root.message}>
        {root.message}
        {roots.length > 1 && <span className="text-xs text-soft"> and {roots.length - 1} alike</span>}
      </p>
      <ul>
        {[...ways].map(([way, list]) => (
          <li key={way} className="relative ml-2 border-l border-line pl-4 last:border-transparent">
            <Branch />
            <span className="text-soft">
              <Middle text={way} most={90} /> <span className="text-xs">{list.length}</span>
            </span>
            <ul className="mb-1">
              {list.slice(0, most).map((s) => (
                <li key={s.id} className="relative ml-2 border-l border-line pl-4 last:border-transparent">
                  <Branch />
                  <span className="block truncate text-xs" title={s.message}>
                    <span className="font-mono">{s.test || s.file || s.unit}</span>{" "}
                    <span className="text-soft">{s.message}</span>
                  </span>
                </li>
              ))}
              {list.length > most && <li className="ml-6 text-xs text-soft">and {list.length - most} more</li>}
            </ul>
          </li>
        ))}
      </ul>
    </div>
  );
}

const most = 8;

/** The line from a trunk to its branch. */
function Branch() {
  return (
    <span
      aria-hidden="true"
      className="absolute left-0 top-0 h-3 w-3 -translate-x-px rounded-bl border-b border-l border-line"
    />
  );
}
