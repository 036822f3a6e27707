import { useParams, useSearchParams } from "react-router";
import { useHead } from "../api/queries";
import { Skeleton, Trouble } from "../parts/basics";

const stories = {
  today: "Where it stands today",
  "pull-request": "For the pull request",
  closing: "What it took",
};

/** The reports for people, as they are sent on. */
export function ReportPage() {
  const upgrade = Number(useParams().upgrade);
  const [search, setSearch] = useSearchParams();
  const head = useHead(upgrade);
  if (head.error) return <Trouble error={head.error} retry={() => head.refetch()} />;
  if (!head.data) return <Skeleton rows={8} />;
  const chosen = search.get("story") ?? "today";
  const story = chosen in stories ? chosen : "today";
  const address = `/api/v1/upgrades/${upgrade}/stories/${story}`;
  return (
    <>
      <title>{`Report of ${head.data.upgrade.name} · Unicausa`}</title>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-4">
        <fieldset className="flex flex-wrap gap-2">
          <legend className="sr-only">Which report</legend>
          {Object.entries(stories).map(([name, title]) => (
            <button
              key={name}
              type="button"
              aria-pressed={story === name}
              onClick={() => setSearch({ story: name }, { replace: true })}
              className={`moves rounded border px-2 py-0.5 ${story === name ? "border-copper text-copper" : "border-line hover:border-copper"}`}
            >
              {title}
            </button>
          ))}
        </fieldset>
        <span className="flex gap-4">
          <a href={`${address}?format=html`} className="text-copper underline underline-offset-2">
            The page alone, to print
          </a>
          <a href={address} className="text-copper underline underline-offset-2">
            Markdown
          </a>
        </span>
      </div>
      <iframe
        key={story}
        title={stories[story as keyof typeof stories]}
        src={`${address}?format=html`}
        className="h-[75vh] w-full rounded border border-line"
      />
    </>
  );
}
