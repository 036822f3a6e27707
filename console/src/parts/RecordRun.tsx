import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useOverview, useRefresh } from "../api/queries";
import { checkOf, record } from "../api/triage";
import { Command } from "./basics";
import { type Piece, packed, piece, sizeText } from "./pieces";

/** Records a run from files that a check left. */
export function RecordRun({ upgrade, onDone }: { upgrade: number; onDone?: () => void }) {
  const checks = useOverview(upgrade).data?.checks ?? [];
  const [check, setCheck] = useState("");
  const [exit, setExit] = useState("");
  const [outputs, setOutputs] = useState<Piece[]>([]);
  const [source, setSource] = useState<Piece>();
  const [sent, setSent] = useState(0);
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
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
  const take = (list: FileList | null) => {
    const more = [...(list ?? [])].map((f) => piece(f.name, f, "after"));
    setOutputs([...outputs, ...more]);
    if (!check && more[0]) setCheck(checkOf(more[0].name));
  };
  const pack = async (list: FileList | null) => {
    const all = [...(list ?? [])];
    const name = all[0]?.webkitRelativePath.split("/")[0] ?? "source";
    setSource(
      await packed(
        name,
        all.map((file) => ({ path: file.webkitRelativePath.slice(name.length + 1), file })),
      ),
    );
  };
  const field = "block w-full rounded border border-line bg-sheet px-2 py-1";
  const button = "moves rounded border border-line px-2 py-1 hover:border-copper";
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
        take(e.dataTransfer.files);
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
        <button type="button" className={button} onClick={() => files.current?.click()}>
          Choose its output
        </button>
        <input
          ref={files}
          type="file"
          multiple
          hidden
          aria-label="Output of the check"
          onChange={(e) => {
            take(e.target.files);
            e.target.value = "";
          }}
        />
        <button type="button" className={button} onClick={() => folder.current?.click()}>
          Add the source folder
        </button>
        <input
          ref={folder}
          type="file"
          hidden
          aria-label="The source folder"
          {...{ webkitdirectory: "" }}
          onChange={(e) => pack(e.target.files)}
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
