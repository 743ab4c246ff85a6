import type { Label } from '@legame/core/bins';

const colours: Readonly<Record<Label['colour'], string>> = {
  ember: 'var(--label-ember)',
  amber: 'var(--label-amber)',
  moss: 'var(--label-moss)',
  lake: 'var(--label-lake)',
  plum: 'var(--label-plum)',
  stone: 'var(--label-stone)',
};
const shapes: Readonly<Record<Label['mark'], string>> = {
  dot: 'M8 3.5 A4.5 4.5 0 1 1 7.99 3.5 Z',
  square: 'M3.8 3.8 H12.2 V12.2 H3.8 Z',
  triangle: 'M8 3 L13.2 12.6 H2.8 Z',
  diamond: 'M8 2.4 L13.6 8 L8 13.6 L2.4 8 Z',
  star: 'M8 2 L9.9 6.2 L14.4 6.6 L11 9.6 L12 14 L8 11.7 L4 14 L5 9.6 L1.6 6.6 L6.1 6.2 Z',
  cross: 'M6.3 2.8 H9.7 V6.3 H13.2 V9.7 H9.7 V13.2 H6.3 V9.7 H2.8 V6.3 H6.3 Z',
  ring: 'M8 3 A5 5 0 1 1 7.99 3 Z M8 5.6 A2.4 2.4 0 1 0 8.01 5.6 Z',
  bar: 'M2.5 6 H13.5 V10 H2.5 Z',
};

/** A label by its colour and its mark; what it is called is said where somebody points or listens. */
export const LabelMark = ({
  label: { name, colour, mark },
  withName = false,
}: {
  label: Label;
  withName?: boolean;
}) => (
  <span className="inline-flex max-w-full items-center gap-1" title={name}>
    <svg
      viewBox="0 0 16 16"
      width="14"
      height="14"
      fillRule="evenodd"
      {...(withName ? { 'aria-hidden': true } : { role: 'img', 'aria-label': name })}
    >
      <path d={shapes[mark]} fill={colours[colour]} />
    </svg>
    {withName && <span className="truncate">{name}</span>}
  </span>
);
