interface Because {
  what: string;
  value: string;
  weight: number;
}

/** Reasons as short phrases with their weight, drawn and in figures. */
export function Evidence({ because }: { because: Because[] }) {
  const top = Math.max(...because.map((b) => Math.abs(b.weight)), 1);
  return (
    <ul className="space-y-0.5 text-sm">
      {because.map((b) => (
        <li key={b.what + b.value} className="grid grid-cols-[1fr_3rem_2.75rem] items-baseline gap-2">
          <span className="min-w-0 [overflow-wrap:anywhere]">
            {b.what} {b.value && <code className="text-xs text-soft">{b.value}</code>}
          </span>
          <span className="h-1.5 self-center bg-wash" aria-hidden="true">
            <span
              className={`block h-full ${b.weight < 0 ? "bg-soft" : "bg-copper"}`}
              style={{ width: `${(100 * Math.abs(b.weight)) / top}%` }}
            />
          </span>
          <span className="text-right text-xs text-soft">
            {b.weight < 0 ? "−" : ""}
            {Math.abs(b.weight).toFixed(2)}
          </span>
        </li>
      ))}
    </ul>
  );
}
