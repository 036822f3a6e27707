import { type FormEvent, useState } from "react";
import { useAddChange } from "../api/acts";
import type { ChangeDetail } from "../api/client";
import { kinds } from "./CorrectChange";
import { FormEnd } from "./FormEnd";

interface Props {
  upgrade: number;
  packages: string[];
  onAdded: (detail: ChangeDetail) => void;
  onCancel: () => void;
}

/** Adds a change that the notes forgot. */
export function AddChange({ upgrade, packages, onAdded, onCancel }: Props) {
  const add = useAddChange(upgrade);
  const [kind, setKind] = useState<(typeof kinds)[number]>("behaviour");
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    const form = new FormData(e.currentTarget);
    const text = (name: string) => String(form.get(name) ?? "").trim();
    add.mutate(
      { title: text("title"), kind, package: text("package"), version: text("version"), source: text("source") },
      { onSuccess: onAdded },
    );
  };
  const field = "mt-1 w-full rounded border border-line bg-sheet px-2 py-0.5";
  return (
    <form
      onSubmit={submit}
      onKeyDown={(e) => e.key === "Escape" && onCancel()}
      className="grid gap-2 border-l-2 border-copper py-1 pl-3 text-sm sm:grid-cols-2"
    >
      <label className="sm:col-span-2">
        <span className="text-soft">What changes? Set names in backticks.</span>
        {/* biome-ignore lint/a11y/noAutofocus: a button has just asked for it */}
        <input name="title" required autoFocus className={field} />
      </label>
      <label>
        <span className="text-soft">Kind</span>
        <select value={kind} onChange={(e) => setKind(e.target.value as typeof kind)} className={field}>
          {kinds.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </select>
      </label>
      <label>
        <span className="text-soft">Package</span>
        <input name="package" list="packages" defaultValue={packages[0]} className={field} />
        <datalist id="packages">
          {packages.map((p) => (
            <option key={p}>{p}</option>
          ))}
        </datalist>
      </label>
      <label>
        <span className="text-soft">Version</span>
        <input name="version" className={field} />
      </label>
      <label>
        <span className="text-soft">Where is it documented?</span>
        <input name="source" type="url" placeholder="https://" className={field} />
      </label>
      <div className="sm:col-span-2">
        <FormEnd act="Add" busy={add.isPending} error={add.error?.message} onCancel={onCancel} />
      </div>
    </form>
  );
}
