/** Causes left over the runs, as a line. */
export function Sparkline({ values }: { values: number[] }) {
  if (values.length < 2) return <span />;
  const width = 140;
  const height = 24;
  const top = Math.max(...values, 1);
  const points = values.map((v, i) => {
    const x = (i / (values.length - 1)) * width;
    const y = height - 2 - (v / top) * (height - 4);
    return `${x.toFixed(1)},${y.toFixed(1)}`;
  });
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="hidden h-6 w-full text-soft sm:block" role="img">
      <title>{`Causes left over ${values.length} runs: from ${values[0]} to ${values.at(-1)}`}</title>
      <polyline points={points.join(" ")} fill="none" stroke="currentColor" strokeWidth="1.5" />
    </svg>
  );
}
