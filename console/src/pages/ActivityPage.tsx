import { useState } from "react";
import { Link, useParams } from "react-router";
import { useLive } from "../api/live";
import { useActivity, useHead } from "../api/queries";
import { Skeleton, Trouble } from "../parts/basics";

/** Every act and happening, the latest first. */
export function ActivityPage() {
  const upgrade = Number(useParams().upgrade);
  const [count, setCount] = useState(100);
  const head = useHead(upgrade);
  const events = useActivity(upgrade, count);
  useLive(upgrade);
  const error = head.error ?? events.error;
  if (error) return <Trouble error={error} retry={() => events.refetch()} />;
  if (!head.data || !events.data) return <Skeleton rows={12} />;
  let day = "";
  return (
    <>
      <title>{`Activity of ${head.data.upgrade.name} · Unicausa`}</title>
      <table className="w-full">
        <tbody>
          {events.data.map((e) => {
            const at = new Date(e.at).toISOString();
            const first = at.slice(0, 10) !== day;
            day = at.slice(0, 10);
            const where = e.cause ? `/causes/${e.cause}` : e.run ? `/runs/${e.run}` : "";
            return (
              <tr key={e.id} className={first ? "border-t border-line" : ""}>
                <td className="w-44 py-0.5 pr-4 align-top text-xs text-soft">
                  {first && `${day} `}
                  <span className="float-right">{at.slice(11, 16)}</span>
                </td>
                <td className="w-28 py-0.5 pr-4 align-top text-soft">{e.author}</td>
                <td className="py-0.5 [overflow-wrap:anywhere]">
                  {where ? (
                    <Link to={`/upgrades/${upgrade}${where}`} className="hover:text-copper">
                      {e.text}
                    </Link>
                  ) : (
                    e.text
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {events.data.length === count && (
        <button
          type="button"
          onClick={() => setCount(count + 200)}
          className="mt-4 text-copper underline underline-offset-2"
        >
          Earlier
        </button>
      )}
    </>
  );
}
