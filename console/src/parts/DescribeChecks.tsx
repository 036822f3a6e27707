import { useState } from "react";
import { CopyButton } from "./basics";
import { Rows } from "./Rows";

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
  const text = yamlOf(rows);
  return (
    <div className="grid gap-6 lg:grid-cols-2" data-part="describe">
      <div className="space-y-1">
        <p className="text-xs text-soft">
          A check is a name and a command that has to pass; {"{target}"} in it stands for each target.
        </p>
        <Rows<Row>
          rows={rows}
          columns={[
            { field: "name", label: "Name of the check", placeholder: "name" },
            { field: "run", label: "Its command", placeholder: "command, as in: make test", code: true },
            { field: "targets", label: "Its targets", placeholder: "targets, if any" },
          ]}
          grid="grid-cols-[6rem_minmax(0,1fr)_8rem_1.75rem]"
          empty={{ name: "", run: "", targets: "" }}
          more="Another check"
          onChange={setRows}
        />
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
