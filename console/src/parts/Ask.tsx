import { type FormEvent, useEffect, useRef, useState } from "react";

interface Field {
  name: string;
  label: string;
  value?: string;
  optional?: boolean;
}

interface Props {
  fields: Field[];
  act: string;
  busy: boolean;
  error?: string;
  onDone: (values: Record<string, string>) => void;
  onCancel: () => void;
}

/** A short form that asks for what an act has to say. */
export function Ask({ fields, act, busy, error, onDone, onCancel }: Props) {
  const [values, setValues] = useState<Record<string, string>>(
    Object.fromEntries(fields.map((f) => [f.name, f.value ?? ""])),
  );
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), []);
  const submit = (e: FormEvent) => {
    e.preventDefault();
    onDone(values);
  };
  return (
    <form
      onSubmit={submit}
      onKeyDown={(e) => e.key === "Escape" && onCancel()}
      className="no-print my-2 flex flex-wrap items-end gap-3"
    >
      {fields.map((f, i) => (
        <label key={f.name} className="min-w-40 flex-1">
          <span className="text-xs text-soft">{f.label}</span>
          <input
            ref={i === 0 ? first : undefined}
            name={f.name}
            required={!f.optional}
            value={values[f.name]}
            onChange={(e) => setValues({ ...values, [f.name]: e.target.value })}
            className="block w-full rounded border border-line bg-sheet px-2 py-1"
          />
        </label>
      ))}
      <button type="submit" disabled={busy} className="rounded bg-copper px-3 py-1 text-paper">
        {act}
      </button>
      <button type="button" onClick={onCancel} className="py-1 text-soft hover:text-ink">
        Cancel
      </button>
      {error && (
        <span role="alert" className="w-full text-xs text-alarm">
          {error}
        </span>
      )}
    </form>
  );
}
