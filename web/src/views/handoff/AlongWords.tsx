import { alsoHashedKnown } from '@legame/core/consolidate';
import { binKey, binTree, isSameBin, isWithin, type BinNode, type BinPath } from '@legame/core/bins';
import type { HandoffChoices } from '@legame/core/contract';
import { alsoHashedText, listed } from '@legame/words/handoffs';
import { count } from '@legame/words/numbers';
import { bins as binApi } from '../../api/bins.ts';
import { lists } from '../../api/clipList.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import type { Draft } from './draft.ts';
import { Check, Word } from '../../parts/Word.tsx';

type Choosing = { choices: HandoffChoices; choose: (change: Partial<HandoffChoices>) => void };

/** What goes beside the media that is used: sidecars, shot logs, and bins of which all comes. */
export function AlongWord({
  draft: { projectId, bins, choices },
  choose,
  onBins,
}: {
  draft: Pick<Draft, 'bins' | 'choices'> & { readonly projectId: string };
  choose: Choosing['choose'];
  onBins: (bins: readonly BinPath[]) => void;
}) {
  const says = [
    ...(choices.sidecars ? ['sidecars'] : []),
    ...(choices.logs ? ['shot logs'] : []),
    ...(choices.archive ? ['the project'] : []),
    ...(bins.length > 0
      ? [bins.some((b) => b.length === 0) ? 'all of every bin' : `all of ${count(bins.length, 'bin')}`]
      : []),
  ];
  return (
    <Word says={listed(says) || 'nothing else'} what="what goes along">
      {() => (
        <div className="flex flex-col gap-2">
          <Check
            label="Sidecars"
            words="what lies beside a recording under its name and is no media: settings, looks, notes"
            isOn={choices.sidecars}
            onChange={(sidecars) => choose({ sidecars })}
          />
          <Check
            label="Shot logs"
            words="all of this project, as they came in, in the folder originals"
            isOn={choices.logs}
            onChange={(logs) => choose({ logs })}
          />
          <Check
            label="The project itself"
            words="as one file in the folder project: timelines, links into this set, bins, labels, rules; opened at Projects"
            isOn={choices.archive}
            onChange={(archive) => choose({ archive })}
          />
          <p className="text-quiet">And all that lies in these bins, whole where no timeline uses it:</p>
          <BinsIn projectId={projectId} chosen={bins} onChange={onBins} />
        </div>
      )}
    </Word>
  );
}

function BinsIn({
  projectId,
  chosen,
  onChange,
}: {
  projectId: string;
  chosen: readonly BinPath[];
  onChange: (bins: readonly BinPath[]) => void;
}) {
  const clips = lists.useClipsQuery(projectId);
  const desk = binApi.useBinsQuery(projectId);
  if (!clips.data || !desk.data) return <ProblemNote error={clips.error ?? desk.error} />;
  const root = binTree(
    desk.data.bins,
    clips.data.map((row) => row.bin),
  );
  const lines = linesOf(root, 0);
  const isChosen = (bin: BinPath) => chosen.some((c) => isSameBin(c, bin));
  const isInside = (bin: BinPath) => chosen.some((c) => c.length < bin.length && isWithin(bin, c));
  return (
    <fieldset aria-label="bins of which all comes" className="max-h-56 overflow-auto">
      {lines.map(({ node, level }) => (
        <label
          key={binKey(node.path)}
          className="flex items-center gap-2 py-0.5"
          style={{ paddingLeft: `${level * 16}px` }}
        >
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            disabled={isInside(node.path)}
            checked={isChosen(node.path) || isInside(node.path)}
            onChange={(e) => {
              // What stands in a chosen bin is chosen with it.
              const others = chosen.filter((c) => !isWithin(c, node.path));
              onChange(e.target.checked ? [...others, node.path] : others);
            }}
          />
          <span className="min-w-0 flex-1 truncate">{node.name || 'every bin, and what lies in none'}</span>
          <span className="text-quiet">{count(node.within, 'clip')}</span>
        </label>
      ))}
    </fieldset>
  );
}

const linesOf = (node: BinNode, level: number): { node: BinNode; level: number }[] => [
  { node, level },
  ...node.bins.flatMap((bin) => linesOf(bin, level + 1)),
];

/** What the hash list states of every file. */
export function ProvenWord({ choices, choose }: Choosing) {
  const { alsoHashed } = choices;
  return (
    <Word says={listed(['xxh64', ...alsoHashed.map((name) => alsoHashedText[name])])} what="hashes">
      {() => (
        <div className="flex flex-col gap-2">
          <p className="text-quiet">
            Every file is proven by xxh64. The hash list can state others as well, for tools that know only those.
          </p>
          {alsoHashedKnown.map((name) => (
            <Check
              key={name}
              label={alsoHashedText[name]}
              isOn={alsoHashed.includes(name)}
              onChange={(isOn) =>
                choose({ alsoHashed: alsoHashedKnown.filter((n) => (n === name ? isOn : alsoHashed.includes(n))) })
              }
            />
          ))}
        </div>
      )}
    </Word>
  );
}
