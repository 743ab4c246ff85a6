/** What stands beside the pointer over a chart. */
export const Tip = ({ title, lines }: { title: string; lines: readonly string[] }) => (
  <div className="sheet px-2 py-1 text-[12px] shadow-sm">
    <b className="font-mono">{title}</b>
    {lines.map((line) => (
      <div key={line}>{line}</div>
    ))}
  </div>
);
