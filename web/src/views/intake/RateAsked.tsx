import { useState } from 'react';
import type { RateProposal } from '@legame/core';
import { proposalWords } from '../../words/remarks.ts';

const valueOf = ({ rate }: RateProposal) => `${rate.num}/${rate.den}`;

/** Asks at which rate a list counts, the likeliest first, each with its reason. */
export function RateAsked({
  name,
  proposals,
  onChoose,
  onClose,
}: {
  name: string;
  proposals: readonly RateProposal[];
  onChoose: (rate: string) => void;
  onClose: () => void;
}) {
  const [rate, setRate] = useState(proposals[0] ? valueOf(proposals[0]) : '25');
  return (
    <form
      className="sheet border-changed p-3"
      onSubmit={(event) => {
        event.preventDefault();
        onChoose(rate);
      }}
    >
      <b>“{name}” does not say its frame rate.</b>
      <p className="mb-2 text-quiet">
        Timecodes mean nothing without it. The likeliest is chosen; nothing is brought in until you agree.
      </p>
      <div className="flex flex-wrap items-center gap-2">
        <select
          className="select select-sm w-96"
          value={rate}
          onChange={(e) => setRate(e.target.value)}
          aria-label={`frame rate of ${name}`}
        >
          {proposals.map((proposal) => (
            <option key={valueOf(proposal)} value={valueOf(proposal)}>
              {proposalWords(proposal)}
            </option>
          ))}
        </select>
        <button type="submit" className="btn btn-primary btn-sm">
          Bring in at this rate
        </button>
        <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
          Leave it
        </button>
      </div>
    </form>
  );
}
