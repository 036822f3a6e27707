import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useRefresh } from "../api/acts";
import { useOverview } from "../api/queries";
import { addNotes } from "../api/triage";
import { Command } from "./basics";
import { ChooseFiles } from "./ChooseFiles";

/** Adds release notes: files, or text that is pasted. */
export function AddNotes({ upgrade, onDone }: { upgrade: number; onDone?: () => void }) {
  const moves = useOverview(upgrade).data?.upgrade.leg.moves ?? [];
  const [pkg, setPkg] = useState<string>();
  const [name, setName] = useState("");
  const [text, setText] = useState("");
  const refresh = useRefresh(upgrade);
  const of = pkg ?? moves[0]?.package ?? "";
  const add = useMutation({
    mutationFn: async (documents: { name: string; text: string }[]) => {
      const added = [];
      for (const d of documents) added.push(await addNotes(upgrade, d.name, of, d.text));
      return added;
    },
    onSuccess: (added) => {
      refresh();
      setText("");
      setName("");
      if (added.every((n) => !n.problem)) onDone?.();
    },
  });
  const take = async (chosen: File[]) => {
    add.mutate(await Promise.all(chosen.map(async (f) => ({ name: f.name, text: await f.text() }))));
  };
  const field = "block w-full rounded border border-line bg-sheet px-2 py-1";
  return (
    <form
      aria-label="Add notes"
      className="no-print max-w-3xl space-y-3 border-l-2 border-copper pl-4"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate([{ name: name.trim() || "pasted.md", text }]);
      }}
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        take([...e.dataTransfer.files]);
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        <label className="min-w-48 flex-1">
          <span className="text-xs text-soft">Notes of which package</span>
          <input list="moving" value={of} onChange={(e) => setPkg(e.target.value)} className={field} />
          <datalist id="moving">
            {moves.map((m) => (
              <option key={m.package}>{m.package}</option>
            ))}
          </datalist>
        </label>
        <ChooseFiles
          text="Choose files"
          label="Files of notes"
          onChoose={take}
          className="border-copper text-copper hover:bg-wash"
        />
        <span className="py-1 text-xs text-soft">or drop them here, or in a terminal</span>
        <Command text="unicausa notes --installed" />
      </div>
      <label className="block">
        <span className="text-xs text-soft">Or paste their text</span>
        <textarea
          rows={4}
          name="text"
          value={text}
          onChange={(e) => setText(e.target.value)}
          className={`${field} font-mono text-xs`}
        />
      </label>
      {text.trim() && (
        <div className="flex items-end gap-3">
          <label>
            <span className="text-xs text-soft">As the document</span>
            <input value={name} placeholder="pasted.md" onChange={(e) => setName(e.target.value)} className={field} />
          </label>
          <button type="submit" disabled={add.isPending} className="rounded bg-copper px-3 py-1 text-paper">
            Add
          </button>
        </div>
      )}
      {add.isPending && <p className="text-xs text-soft">reading the notes</p>}
      {add.data && (
        <p className="text-xs text-soft" role="status">
          {add.data.map((n) => n.problem || `${n.name}: ${n.changes} changes in ${n.lines} lines`).join("; ")}
        </p>
      )}
      {add.error && (
        <p role="alert" className="text-xs text-alarm">
          {add.error.message}
        </p>
      )}
    </form>
  );
}
