/** The two ends of an event above, and the two ends of a stretch beneath, each with how far down it lies. */
export type Ends = readonly [left: number, right: number, y: number];

/** From the two ends of an event to the two ends of its stretch; where it runs backwards they cross. */
export function Thread({
  above: [left, right, from],
  beneath: [first, last, to],
  colour,
  isDashed,
  isBackwards,
  isNear,
}: {
  above: Ends;
  beneath: Ends;
  colour: string;
  isDashed: boolean;
  isBackwards: boolean;
  /** Selected, or under the playhead: others step back. */
  isNear: boolean;
}) {
  const [a, b] = isBackwards ? [last, first] : [first, last];
  const middle = (from + to) / 2;
  const down = (x: number, onto: number) => `M ${x} ${from} C ${x} ${middle}, ${onto} ${middle}, ${onto} ${to}`;
  return (
    <g>
      {!isDashed && isNear && (
        <path
          d={`${down(left, a)} L ${b} ${to} C ${b} ${middle}, ${right} ${middle}, ${right} ${from} Z`}
          fill={colour}
          fillOpacity={0.14}
        />
      )}
      {[down(left, a), down(right, b)].map((d, i) => (
        <path
          key={i}
          d={d}
          fill="none"
          stroke={colour}
          strokeWidth={isNear ? 2 : 1}
          strokeDasharray={isDashed ? '4 4' : undefined}
          strokeOpacity={isNear ? 1 : 0.4}
        />
      ))}
    </g>
  );
}
