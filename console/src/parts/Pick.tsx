interface PickProps {
  name: string;
  value: string;
  options: string[];
  onPick: (changes: Record<string, string>) => void;
}

/** A filter: one of the values that there are, or any. */
export function Pick({ name, value, options, onPick }: PickProps) {
  if (options.length < 2 && !value) return null;
  return (
    <Select label={`Only of this ${name}`} value={value} onPick={(v) => onPick({ [name]: v })}>
      <option value="">any {name}</option>
      {options.map((o) => (
        <option key={o}>{o}</option>
      ))}
    </Select>
  );
}

interface SelectProps {
  label: string;
  value: string;
  onPick: (value: string) => void;
  children: React.ReactNode;
}

export function Select({ label, value, onPick, children }: SelectProps) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(e) => onPick(e.target.value)}
      className="max-w-28 rounded border border-line bg-sheet px-1 py-0.5"
    >
      {children}
    </select>
  );
}
