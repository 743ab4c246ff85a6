import type { Remark } from '@legame/core/remarks';
import { remarkSentence, whereWords } from '@legame/words/remarks';

/** What was not understood in a document, or looks wrong, in its order. */
export function RemarkList({ name, remarks }: { name: string; remarks: readonly Remark[] }) {
  return (
    <section aria-label="remarks">
      <h2 className="text-[15px] font-semibold [overflow-wrap:anywhere]">{name}</h2>
      {remarks.length === 0 ? (
        <p className="mt-1 text-quiet">
          Everything in it was understood. An export changes its media references and not one other character.
        </p>
      ) : (
        <>
          <p className="mt-1 mb-3 text-quiet">
            What follows was not understood, or looks wrong. It was kept as it stands and goes out again with an export.
          </p>
          <ol className="flex flex-col gap-2">
            {remarks.map((remark, i) => (
              <li key={i} className="line-b pb-2">
                <span className="font-mono text-quiet [overflow-wrap:anywhere]">{whereWords(remark)}</span>
                <p className="[overflow-wrap:anywhere]">{remarkSentence(remark)}</p>
              </li>
            ))}
          </ol>
        </>
      )}
    </section>
  );
}
