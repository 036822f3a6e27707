import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { TestRow, TestTable } from "../api/client";
import { useLive } from "../api/live";
import { useHead, useTests } from "../api/queries";
import { Command, Skeleton, Trouble, Wide } from "../parts/basics";

/** Every test against every run, trouble on top. */
export function TestsPage() {
  const upgrade = Number(useParams().upgrade);
  const head = useHead(upgrade);
  const tests = useTests(upgrade);
  useLive(upgrade);
  const error = head.error ?? tests.error;
  if (error) return <Trouble error={error} retry={() => tests.refetch()} />;
  if (!head.data || !tests.data) return <Skeleton rows={12} />;
  return (
    <>
      <title>{`Tests of ${head.data.upgrade.name} · Unicausa`}</title>
      <Matrix upgrade={upgrade} table={tests.data} />
    </>
  );
}

/** A letter's shape, word and colour; the shape tells it without colour. */
const cells: Record<string, [mark: string, word: string, look: string]> = {
  p: ["", "passed", "bg-calm/70"],
  f: ["×", "failed", "bg-alarm text-paper"],
  s: ["○", "skipped", "border border-amber text-amber"],
  "-": ["–", "not there", "text-soft"],
  "?": ["?", "unknown", "text-soft"],
  ".": ["", "of another check", ""],
};

/** How many tests are drawn at first, trouble on top. */
const most = 100;

function Matrix({ upgrade, table }: { upgrade: number; table: TestTable }) {
  const [search, setSearch] = useSearchParams();
  const [all, setAll] = useState(false);
  const [wanted, setWanted] = useState(search.get("name") ?? "");
  const narrow = (name: string) => {
    setWanted(name);
    setSearch(name ? { name } : {}, { replace: true });
  };
  const rows = table.tests.filter((t) => `${t.suite} ${t.name}`.toLowerCase().includes(wanted.toLowerCase()));
  const shown = all ? rows : rows.slice(0, most);
  const trouble = table.tests.filter((t) => t.lost || t.flaky || t.outcomes.replace(/\.+$/, "").endsWith("f")).length;
  if (table.runs.length === 0) {
    return (
      <div className="space-y-2 text-soft">
        <p>No run has named a test yet. A runner that tells names lets a missing test be missed:</p>
        <Command text="unicausa record --check test -- go test -json ./..." />
      </div>
    );
  }
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-6 gap-y-2">
        <span>
          {trouble === 0 ? "No test is in trouble" : `${trouble} in trouble`}
          <span className="text-soft"> of {table.tests.length + table.passed}</span>
        </span>
        <input
          type="search"
          value={wanted}
          onChange={(e) => narrow(e.target.value)}
          placeholder="part of a name"
          aria-label="Only tests with this in their name"
          className="no-print w-56 rounded border border-line bg-sheet px-2 py-0.5"
        />
        <span className="flex gap-3 text-xs text-soft">
          {Object.entries(cells)
            .filter(([letter]) => letter !== ".")
            .map(([letter, [, word]]) => (
              <span key={letter} className="inline-flex items-center gap-1">
                <Cell letter={letter} />
                {word}
              </span>
            ))}
        </span>
      </div>
      <Wide>
        <table>
          <thead>
            <tr className="text-xs text-soft">
              <th className="pr-4 text-left font-normal">test</th>
              <th className="w-12 text-left font-normal">
                <span className="sr-only">trouble</span>
              </th>
              {table.runs.map((r) => (
                <th
                  key={r.number}
                  className="min-w-6 px-px pb-1 font-mono font-normal"
                  title={`${r.check}, ${r.commit.slice(0, 7)}`}
                >
                  <Link to={`/upgrades/${upgrade}/runs/${r.number}`} className="hover:text-copper">
                    {r.baseline ? <b className="text-ink">{r.number}</b> : r.number}
                  </Link>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((t) => (
              <Row key={`${t.suite} ${t.name} ${t.outcomes}`} test={t} runs={table.runs} />
            ))}
          </tbody>
        </table>
      </Wide>
      {shown.length < rows.length && (
        <button type="button" onClick={() => setAll(true)} className="mt-2 text-copper underline underline-offset-2">
          All {rows.length} tests
        </button>
      )}
      {rows.length === 0 && <p className="text-soft">No test has “{wanted}” in its name.</p>}
      {table.passed > 0 && <p className="mt-3 text-soft">and {table.passed} more that passed in every run</p>}
    </>
  );
}

function Row({ test, runs }: { test: TestRow; runs: TestTable["runs"] }) {
  return (
    <tr className="hover:bg-wash">
      <td className="max-w-[34rem] truncate py-0.5 pr-4" title={`${test.suite} ${test.name}`}>
        <span className="text-xs text-soft">{test.suite.split("/").pop()}</span> {test.name}
      </td>
      <td className="text-xs text-alarm">{test.lost ? "lost" : test.flaky ? "flaky" : ""}</td>
      {[...test.outcomes].map((letter, i) => (
        <td key={runs[i]?.number} className="px-px text-center">
          <Cell letter={letter} title={`${cells[letter]?.[1]} in run ${runs[i]?.number}`} />
        </td>
      ))}
    </tr>
  );
}

function Cell({ letter, title }: { letter: string; title?: string }) {
  const [mark, word, look] = cells[letter] ?? ["", "", ""];
  return (
    <span
      role="img"
      aria-label={title ?? word}
      title={title}
      className={`inline-flex size-4 items-center justify-center rounded-xs align-middle text-xs leading-none ${look}`}
    >
      {mark}
    </span>
  );
}
