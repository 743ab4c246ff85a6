import { Command } from 'cmdk';
import { lazy, Suspense, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { lists } from '../api/clipList.ts';
import { useAppDispatch } from '../app/store.ts';
import { filterStatus, filterText, pick } from '../session/selection.ts';
import { statusWords } from '@legame/words/statuses';
import { Elsewhere } from './Elsewhere.tsx';
import { commandIds, definitionOf, type CommandId } from './definitions.ts';
import { runCommand, useCommand, useCommandStates, whyNot } from './useCommand.ts';

/** The words of help are many, and needed by nobody who looks for none. */
const WordsFound = lazy(async () => ({ default: (await import('./WordsFound.tsx')).WordsFound }));

const mostClips = 8;
const item =
  'flex cursor-default justify-between gap-3 px-3 py-1 data-[selected=true]:bg-[var(--bond-wash)] aria-selected:bg-[var(--bond-wash)]';

/**
 * One field for both: finds clips by name, file or reel, and what bears the words in places and other projects; and does
 * what its words say, or tells why it cannot be done.
 */
export function FindOrDo({ projectId }: { projectId: string }) {
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  useCommandStates();
  useCommand('find', () => input.current?.focus());
  const wanted = text.trim().toLowerCase();
  const done = () => {
    setText('');
    setOpen(false);
    input.current?.blur();
  };
  const doings = commandIds.filter((id) => id !== 'find' && matches(definitionOf(id).title, wanted));
  // What can be done now comes first.
  const inOrder = doings.toSorted((a, b) => Number(whyNot(a) !== null) - Number(whyNot(b) !== null));
  return (
    <Command shouldFilter={false} loop className="relative mx-auto w-[min(460px,40vw)]" label="find or do">
      <Command.Input
        ref={input}
        className="input input-sm w-full bg-base-200 pr-8"
        placeholder="find or do…"
        aria-label="find or do"
        value={text}
        onValueChange={setText}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') done();
        }}
      />
      <kbd className="kbd-mark absolute top-1.5 right-2 text-quiet">/</kbd>
      {/* Always there, for the field says that it governs it. */}
      <Command.List
        className={open && wanted ? 'sheet absolute top-full z-30 mt-1 max-h-96 w-full overflow-auto py-1' : 'hidden'}
        label="found"
      >
        {open && wanted && (
          <>
            {inOrder.map((id) => (
              <Doing key={id} id={id} onDone={done} />
            ))}
            <Clips projectId={projectId} wanted={wanted} onDone={done} />
            {projectId && <Elsewhere projectId={projectId} wanted={wanted} itemClass={item} onDone={done} />}
            <Suspense fallback={null}>
              <WordsFound wanted={wanted} itemClass={item} onDone={done} />
            </Suspense>
            <Command.Empty className="px-3 py-1 text-quiet">Nothing and no command with “{text.trim()}”.</Command.Empty>
          </>
        )}
      </Command.List>
    </Command>
  );
}

/** Every word of what was typed stands in it. */
const matches = (title: string, wanted: string): boolean =>
  wanted !== '' && wanted.split(/\s+/).every((word) => title.toLowerCase().includes(word));

function Doing({ id, onDone }: { id: CommandId; onDone: () => void }) {
  const { title, shown, note } = definitionOf(id);
  const why = whyNot(id);
  return (
    <Command.Item
      value={id}
      className={item}
      aria-disabled={why !== null}
      onMouseDown={(event) => event.preventDefault()}
      onSelect={() => {
        onDone();
        runCommand(id);
      }}
    >
      <span className={why === null ? '' : 'text-quiet'}>{title}</span>
      <span className="truncate text-quiet">{why ?? shown ?? note ?? ''}</span>
    </Command.Item>
  );
}

function Clips({ projectId, wanted, onDone }: { projectId: string; wanted: string; onDone: () => void }) {
  const { data: clips } = lists.useClipsQuery(projectId, { skip: !projectId });
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const found = (clips ?? [])
    .filter((c) => `${c.fileName} ${c.name} ${c.reel ?? ''}`.toLowerCase().includes(wanted))
    .slice(0, mostClips);
  return found.map((clip) => (
    <Command.Item
      key={clip.id}
      value={clip.id}
      className={item}
      onMouseDown={(event) => event.preventDefault()}
      onSelect={() => {
        onDone();
        dispatch(filterStatus('all'));
        dispatch(filterText(''));
        dispatch(pick(clip.id));
        void navigate(`/projects/${projectId}/ledger`);
      }}
    >
      <span className="font-mono">{clip.fileName}</span>
      <span className="text-quiet">{statusWords[clip.status.status]}</span>
    </Command.Item>
  ));
}
