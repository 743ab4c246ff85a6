import { useState, type ReactNode } from 'react';
import { useLocation, useParams } from 'react-router';
import { toast } from 'sonner';
import { useDebounce } from 'use-debounce';
import { z } from 'zod';
import type { ClipId, MediaFileId } from '@legame/core/model';
import { hasToken, namingTokens, strangeTokens } from '@legame/core/naming';
import { listed } from '@legame/words/handoffs';
import { count } from '@legame/words/numbers';
import { lists } from '../../api/clipList.ts';
import { folders } from '../../api/folders.ts';
import { naming } from '../../api/naming.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { Check, ClipsWord, NumberIn, TextIn, Word } from '../../parts/Word.tsx';
import { NamesTable } from './NamesTable.tsx';

/** What a screen that comes here brings along. */
const broughtSchema = z.object({ clips: z.array(z.custom<ClipId>()).min(1) });

/** More files than this are not looked at in one go. */
const mostClips = 5000;

/** What the files of clips are called, and what they would be called by a pattern; renamed all at once. */
export function NamingView() {
  const { projectId = '' } = useParams();
  const clips = lists.useClipsQuery(projectId);
  const brought = broughtSchema.safeParse(useLocation().state).data?.clips ?? null;
  const [areAll, setAll] = useState(brought === null);
  const filed = folders.useFolderTemplateQuery(projectId);
  if (!clips.data || !filed.data) return <Waiting what="clips" error={clips.error ?? filed.error} />;
  const tied = clips.data.filter((row) => row.tied).map((row) => row.id);
  const wanted = areAll || !brought ? tied : brought;
  const chosen = wanted.slice(0, mostClips);
  if (chosen.length === 0)
    return (
      <p className="p-6 text-quiet">
        No clip of this project has a file yet. Link them first; then their files can be named.
      </p>
    );
  const says = areAll || !brought ? 'all clips' : count(brought.length, 'chosen clip');
  return (
    <Names
      projectId={projectId}
      clips={chosen}
      says={says}
      onAll={areAll ? null : () => setAll(true)}
      left={wanted.length - chosen.length}
      kept={filed.data.namePattern}
    />
  );
}

function Names({
  projectId,
  clips,
  says,
  onAll,
  left,
  kept,
}: {
  projectId: string;
  clips: readonly ClipId[];
  says: string;
  /** All clips instead; null where they are that already. */
  onAll: (() => void) | null;
  /** Clips that are not looked at. */
  left: number;
  /** The pattern by which this project names its files. */
  kept: string | null;
}) {
  const [pattern, setPattern] = useState(kept ?? '{name}');
  const [first, setFirst] = useState(1);
  const [written, setWritten] = useState<ReadonlyMap<MediaFileId, string>>(new Map());
  const [alsoOfOthers, setAlsoOfOthers] = useState(false);
  const [rename, renamed] = naming.useRenameFilesMutation();
  const asked = {
    ...{ projectId, clips, pattern: pattern.trim(), first },
    written: [...written].map(([mediaFileId, name]) => ({ mediaFileId, name })),
  };
  const [settled] = useDebounce(asked, 200, { equalityFn: (a, b) => JSON.stringify(a) === JSON.stringify(b) });
  const canBeAsked = settled.pattern !== '' && strangeTokens(settled.pattern, namingTokens).length === 0;
  const preview = naming.useNamingPreviewQuery(settled, { skip: !canBeAsked });
  const files = (preview.currentData ?? preview.data)?.files ?? [];
  const others = files.filter((f) => f.to !== f.from && f.fault === null);
  const faults = files.filter((f) => f.fault !== null).length;
  const elsewhere = [...new Set(others.flatMap((f) => f.elsewhere))];
  // What the table shows is what would be renamed: not while it is being worked out anew.
  const isReady =
    preview.currentData !== undefined && JSON.stringify(settled) === JSON.stringify(asked) && !renamed.isLoading;
  const run = () =>
    void rename({
      projectId,
      alsoOfOthers,
      files: others.map(({ mediaFileId, from, to }) => ({ mediaFileId, from, to })),
    })
      .unwrap()
      .then(() => {
        setWritten(new Map());
        toast(`${count(others.length, 'file')} renamed. Undo (u) renames them back.`);
      })
      .catch(() => undefined);
  return (
    <div className="flex h-full flex-col p-4">
      <h1 className="sr-only">Names</h1>
      <Sentence {...{ says, onAll, pattern, setPattern, canBeAsked, first, setFirst }}>
        <Keeping projectId={projectId} pattern={asked.pattern} kept={kept} canBeKept={canBeAsked} />
      </Sentence>
      <ProblemNote error={renamed.error ?? preview.error} onClose={renamed.reset} />
      <div className="my-2 flex items-center gap-4">
        <p className="sheet flex-1 px-3 py-2">
          {others.length === 0 && faults === 0 ? (
            <>
              <b>{count(files.length, 'file')} looked at.</b> All are called so already.
            </>
          ) : (
            <>
              <b>{count(others.length, 'file')}</b> of {files.length} would be called otherwise
              {faults > 0 && <b className="text-missing"> · {faults} cannot be</b>}
            </>
          )}
          <span className="block text-quiet">
            Names alone change: every clip stays tied here, and Undo renames them back. Other programs look for the
            files under the names that they know.
            {left > 0 && ` ${count(left, 'clip')} beyond the first ${mostClips} are not looked at.`}
          </span>
        </p>
        {elsewhere.length > 0 && (
          <div className="max-w-56">
            <Check
              label={`Also those that ${listed(elsewhere)} ${elsewhere.length === 1 ? 'uses' : 'use'}`}
              isOn={alsoOfOthers}
              onChange={setAlsoOfOthers}
            />
          </div>
        )}
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!isReady || others.length === 0 || (elsewhere.length > 0 && !alsoOfOthers)}
          onClick={run}
        >
          Rename {count(others.length, 'file')}
        </button>
      </div>
      <NamesTable
        files={files}
        onWrite={(mediaFileId, name) =>
          setWritten((before) => {
            const next = new Map(before);
            if (name === null) next.delete(mediaFileId);
            else next.set(mediaFileId, name);
            return next;
          })
        }
      />
    </div>
  );
}

/** What is named and how, as a sentence whose words are choices. */
function Sentence({
  says,
  onAll,
  pattern,
  setPattern,
  canBeAsked,
  first,
  setFirst,
  children,
}: {
  says: string;
  onAll: (() => void) | null;
  pattern: string;
  setPattern: (pattern: string) => void;
  canBeAsked: boolean;
  first: number;
  setFirst: (first: number) => void;
  children: ReactNode;
}) {
  return (
    <p className="text-[17px] leading-8" aria-label="how files are named">
      Name the files of{' '}
      {onAll ? <ClipsWord says={says} instead="All clips with a file, instead" onAll={onAll} /> : <b>{says}</b>} by{' '}
      <Word says={pattern} what="pattern" isWanted={!canBeAsked}>
        {(close) => <PatternIn pattern={pattern} onChange={setPattern} onDone={close} />}
      </Word>
      {hasToken(pattern, 'n') && (
        <>
          , counted from{' '}
          <Word says={String(first)} what="first number">
            {() => <NumberIn label="is the first number" value={first} most={1_000_000} onChange={setFirst} />}
          </Word>
        </>
      )}
      . {children}
    </p>
  );
}

/** Whether this project names its files so, and the way to say that it does. */
function Keeping({
  projectId,
  pattern,
  kept,
  canBeKept,
}: {
  projectId: string;
  pattern: string;
  kept: string | null;
  canBeKept: boolean;
}) {
  const [keep, keeping] = folders.useKeepNamePatternMutation();
  if (pattern === kept) return <span className="text-[13px] text-quiet">So this project names its files.</span>;
  return (
    <>
      <button
        type="button"
        className="btn btn-plain btn-xs align-middle"
        title={kept === null ? 'Nothing says yet how this project names its files' : `It names them ${kept} until now`}
        disabled={!canBeKept || keeping.isLoading}
        onClick={() => void keep({ projectId, pattern })}
      >
        Keep for this project
      </button>
      <ProblemNote error={keeping.error} onClose={keeping.reset} />
    </>
  );
}

const tokenText = {
  name: 'what it is called now',
  date: 'the day it was written',
  project: 'the project',
  reel: 'the reel',
  scene: 'the scene',
  take: 'the take',
  version: 'the number behind a “v” in its name',
  n: 'a number',
} as const;

function PatternIn({
  pattern,
  onChange,
  onDone,
}: {
  pattern: string;
  onChange: (pattern: string) => void;
  onDone: () => void;
}) {
  const strange = strangeTokens(pattern, namingTokens);
  return (
    <div className="flex flex-col gap-2">
      <TextIn label="pattern" value={pattern} onChange={onChange} onDone={onDone} />
      <div className="grid grid-cols-[auto_1fr] items-center gap-x-2 gap-y-1">
        {namingTokens.map((token) => (
          <div key={token} className="contents">
            <button
              type="button"
              className="btn btn-plain btn-xs justify-start font-mono"
              onClick={() =>
                onChange(`${pattern}${/[}\w]$/.test(pattern) ? '_' : ''}{${token}${token === 'n' ? ':2' : ''}}`)
              }
            >
              {`{${token}}`}
            </button>
            <span className="text-quiet">{tokenText[token]}</span>
          </div>
        ))}
      </div>
      {strange.length > 0 && (
        <p className="text-missing">Nobody knows what {listed(strange.map((s) => `{${s}}`))} should be.</p>
      )}
      <p className="text-quiet">
        {'{n:3}'} has three digits, and so has every number. What is not known of a file goes with the separator before
        it. A name that fits already, whatever its number, is kept.
      </p>
    </div>
  );
}
