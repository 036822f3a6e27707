import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useRefresh } from "../api/acts";
import { useOverview } from "../api/queries";
import { checkOf, record } from "../api/triage";
import { Command } from "./basics";
import { ChooseFiles } from "./ChooseFiles";
import { type Piece, packedFolder, piece, sizeText } from "./pieces";

/** Records a run from files that a check left. */
export function RecordRun({ upgrade, onDone }: { upgrade: number; onDone?: () => void }) {
  const checks = useOverview(upgrade).data?.checks ?? [];
  const [check, setCheck] = useState("");
  const [exit, setExit] = useState("");
  const [outputs, setOutputs] = useState<Piece[]>([]);
  const [source, setSource] = useState<Piece>();
  const [sent, setSent] = useState(0);
  const refresh = useRefresh(upgrade);
  const save = useMutation({
    mutationFn: () =>
      record(
        upgrade,
        { check: check.trim(), exit: Number(exit || 0), inputs: outputs, source: source?.content },
        setSent,
      ),
    onSuccess: (run) => {
      refresh();
      setOutputs([]);
      if (run.status !== "failed") onDone?.();
    },
  });
  const take = (chosen: File[]) => {
    const more = chosen.map((f) => piece(f.name, f, "after"));
    setOutputs([...outputs, ...more]);
    if (!check && more[0]) setCheck(checkOf(more[0].name));
  };
  const field = "block w-full rounded border border-line bg-sheet px-2 py-1";
  return (
    <form
      aria-label="Record a run"
      className="no-print max-w-3xl space-y-3 border-l-2 border-copper pl-4"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        take([...e.dataTransfer.files]);
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        <label className="min-w-40 flex-1">
          <span className="text-xs text-soft">Check</span>
          <input
            required
            name="check"
            list="checks"
            value={check}
            placeholder="build, test, …"
            onChange={(e) => setCheck(e.target.value)}
            className={field}
          />
          <datalist id="checks">
            {checks.map((c) => (
              <option key={c.name}>{c.name}</option>
            ))}
          </datalist>
        </label>
        <label className="w-32">
          <span className="text-xs text-soft">Its exit status</span>
          <input
            required
            name="exit"
            inputMode="numeric"
            pattern="\d+"
            value={exit}
            placeholder="0 passed"
            onChange={(e) => setExit(e.target.value)}
            className={field}
          />
        </label>
        <ChooseFiles text="Choose its output" label="Output of the check" onChoose={take} />
        <ChooseFiles
          folder
          text="Add the source folder"
          label="The source folder"
          onChoose={async (chosen) => setSource(await packedFolder(chosen))}
        />
      </div>
      {(outputs.length > 0 || source) && (
        <p className="text-xs text-soft">
          {outputs.map((o) => `${o.name} (${sizeText(o.content.size)})`).join(", ")}
          {source && `${outputs.length > 0 ? "; " : ""}source of ${source.files} files`}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <button
          type="submit"
          disabled={save.isPending || outputs.length === 0}
          className="rounded bg-copper px-3 py-1 text-paper disabled:opacity-50"
        >
          Record
        </button>
        {save.isPending && (
          <span className="text-xs text-soft" role="status">
            {sent < 1 ? `sending, ${Math.round(sent * 100)} %` : "being processed"}
          </span>
        )}
        <span className="text-xs text-soft">
          In the project&rsquo;s folder it takes no files: exit status, commit, versions and source come along.
        </span>
        <Command text="unicausa record --all" />
      </div>
      {save.data?.status === "failed" && (
        <p role="alert" className="text-xs text-alarm">
          It is kept as run {save.data.number}, but could not be processed: {save.data.problem}
        </p>
      )}
      {save.error && (
        <p role="alert" className="text-xs text-alarm">
          {save.error.message}
        </p>
      )}
    </form>
  );
}
