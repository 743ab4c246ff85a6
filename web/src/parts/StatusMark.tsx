import type { StatusName } from '@legame/core/state';
import { statusWords } from '@legame/words/statuses';

/** Classes written out, so that the style sheet's scanner finds them. */
export const statusText: Readonly<Record<StatusName, string>> = {
  linked: 'text-linked',
  missing: 'text-missing',
  changed: 'text-changed',
  unreadable: 'text-unreadable',
  short: 'text-short',
  parked: 'text-aside',
  waived: 'text-aside',
  unshown: 'text-aside',
};

/** Rings, Legame's own: interlocked, dashed, apart, notched, open, barred, thin; two cuts for what a nest trims away. Never without its word. */
function Rings({ status }: { status: StatusName }) {
  switch (status) {
    case 'linked':
      return (
        <>
          <circle cx="8" cy="8" r="4.6" />
          <circle cx="14" cy="8" r="4.6" />
        </>
      );
    case 'missing':
      return <circle cx="11" cy="8" r="4.8" strokeDasharray="2.1 2.2" />;
    case 'changed':
      return (
        <>
          <circle cx="5.6" cy="8" r="4" />
          <circle cx="16.4" cy="8" r="4" />
        </>
      );
    case 'unreadable':
      return (
        <>
          <circle cx="11" cy="8" r="4.8" />
          <path d="M11 8 V3.2 A4.8 4.8 0 0 1 15.8 8 Z" fill="currentColor" />
        </>
      );
    case 'short':
      return <path d="M11 3.2 A4.8 4.8 0 1 1 6.2 8" />;
    case 'parked':
      return (
        <>
          <circle cx="11" cy="8" r="4.8" />
          <path d="M3.5 8 H18.5" />
        </>
      );
    case 'waived':
      return <circle cx="11" cy="8" r="4.8" strokeWidth="0.9" />;
    case 'unshown':
      return <path d="M6.5 4 V12 M15.5 4 V12 M9 8 H13" strokeWidth="0.9" />;
  }
}

export function StatusMark({ status, large = false }: { status: StatusName; large?: boolean }) {
  return (
    <span
      className={`inline-flex items-center gap-1.5 font-semibold whitespace-nowrap ${statusText[status]} ${large ? 'text-[15px]' : ''}`}
    >
      <svg
        viewBox="0 0 22 16"
        width={large ? 30 : 22}
        height={large ? 22 : 16}
        fill="none"
        stroke="currentColor"
        strokeWidth="1.7"
        aria-hidden
      >
        <Rings status={status} />
      </svg>
      {statusWords[status]}
    </span>
  );
}
