import { Plus, X } from "lucide-react";
import { useState } from "react";
import { CopyButton } from "./basics";

interface Row {
  name: string;
  run: string;
  targets: string;
}

/** Describes checks in a form, with the text of unicausa.yaml beside it, ready to copy. */
export function DescribeChecks({ names }: { names: string[] }) {
  const [rows, setRows] = useState<Row[]>(() =>
    (names.length > 0 ? names : ["build", "test"]).map((name) => ({ name, run: "", targets: "" })),
  );
  const set = (at: number, change: Partial<Row>) => setRows(rows.map((r, i) => (i === at ? { ...r, ...change } : r)));
  const text = yamlOf(rows);
  const field = "w-full rounded border border-line bg-sheet px-2 py-0.5";
  return (
    <div className="grid gap-6 lg:grid-cols-2" data-part="describe">
      <div className="space-y-1">
        <p className="text-xs text-soft">
          A check is a name and a command that has to pass; {"{target}"} in it stands for each target.
        </p>
        {rows.map((r, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a row has no other name while it is typed
          <div key={i} className="grid grid-cols-[6rem_minmax(0,1fr)_8rem_1.75rem] items-center gap-2">
            <input
              aria-label="Name of the check"
              placeholder="name"
              value={r.name}
              onChange={(e) => set(i, { name: e.target.value })}
              className={field}
            />
            <input
              aria-label="Its command"
              placeholder="command, as in: make test"
              value={r.run}
              onChange={(e) => set(i, { run: e.target.value })}
              className={`${field} font-mono text-xs`}
            />
            <input
              aria-label="Its targets"
              placeholder="targets, if any"
              value={r.targets}
              onChange={(e) => set(i, { targets: e.target.value })}
              className={field}
            />
            <button
              type="button"
              aria-label={`Remove ${r.name || "this row"}`}
              onClick={() => setRows(rows.filter((_, n) => n !== i))}
              className="moves rounded p-1 text-soft hover:bg-wash hover:text-ink"
            >
              <X className="size-3.5" aria-hidden="true" />
            </button>
          </div>
        ))}
        <button
          type="button"
          onClick={() => setRows([...rows, { name: "", run: "", targets: "" }])}
          className="inline-flex items-center gap-1 text-copper hover:underline"
        >
          <Plus className="size-3.5" aria-hidden="true" />
          Another check
        </button>
      </div>
      <div className="min-w-0">
        <p className="flex items-center gap-1 text-xs text-soft">
          unicausa.yaml, at the top of the project; then unicausa record --all
          <CopyButton text={text} label="Copy unicausa.yaml" />
        </p>
        <pre className="whitespace-pre-wrap [overflow-wrap:anywhere] bg-sheet px-2 py-1 text-xs leading-relaxed">
          {text}
        </pre>
      </div>
    </div>
  );
}

function yamlOf(rows: Row[]) {
  const lines = ["checks:"];
  for (const r of rows.filter((r) => r.name.trim())) {
    lines.push(`  - name: ${scalar(r.name)}`, `    run: ${scalar(r.run || "…")}`);
    const targets = r.targets.split(/[\s,]+/).filter(Boolean);
    if (targets.length > 0) lines.push(`    targets: [${targets.map(scalar).join(", ")}]`);
  }
  return `${lines.join("\n")}\n`;
}

/** A text as a YAML scalar: plain where that is safe, else quoted as JSON is, which YAML reads. */
function scalar(text: string) {
  const plain =
    /^[A-Za-z0-9./][A-Za-z0-9 ./_=-]*$/.test(text) && !/^(true|false|yes|no|null|on|off|[\d.]+)$/i.test(text);
  return plain && text.trim() === text ? text : JSON.stringify(text);
}
