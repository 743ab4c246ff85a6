import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { folderRequestSchema, type ClipRow } from '@legame/core/contract';
import { acts } from '../../api/acts.ts';
import { ActPanel } from '../../parts/ActPanel.tsx';
import { MemberList } from '../../parts/MemberList.tsx';
import { count } from '@legame/words/numbers';

/** Changes one folder of the remembered paths for another, over the selection, with a live count of what that resolves. */
export function FolderPanel({
  projectId,
  rows,
  onClose,
}: {
  projectId: string;
  rows: readonly ClipRow[];
  onClose: () => void;
}) {
  const found = rows.map((r) => r.candidate).find((c) => c !== null);
  const { register, watch } = useForm({
    resolver: zodResolver(folderRequestSchema.pick({ from: true, to: true })),
    defaultValues: {
      from: commonFolder(rows.map((r) => r.folder)),
      to: found ? [found.placeName, found.folder].filter(Boolean).join('/') : '',
    },
  });
  const { from, to } = watch();
  const clipIds = rows.length > 0 ? rows.map((r) => r.id) : undefined;
  const typed = JSON.stringify({ from, to });
  const asked = useSettled(typed);
  const wanted = { projectId, ...(JSON.parse(asked) as { from: string; to: string }), clipIds };
  const preview = acts.useFolderPreviewQuery(wanted, { skip: to.trim() === '' });
  const [change, changed] = acts.useChangeFolderMutation();
  // What stands in the fields, counted: never what stood there before.
  const counted = asked === typed && to.trim() !== '' ? preview.currentData : undefined;
  const members = counted?.members ?? [];
  const fitting = members.filter((m) => m.fits);
  const field = (label: string, name: 'from' | 'to', hint: string) => (
    <label className="mt-2 block">
      <span className="text-quiet">{label}</span>
      <input className="input input-sm mt-0.5 w-full font-mono" placeholder={hint} {...register(name)} />
    </label>
  );
  return (
    <ActPanel
      label="change a folder"
      title={`Change a folder for ${rows.length > 0 ? count(rows.length, 'clip') : 'all dark clips'}`}
      verb={`Link ${fitting.length}`}
      isPossible={fitting.length > 0}
      asked={changed}
      previewError={preview.error}
      onAct={() => change(wanted).unwrap()}
      onClose={onClose}
    >
      {field('The edit says', 'from', 'KILN_A/day2')}
      {field('It lies in', 'to', 'KILN_B/rushes/day2')}
      <p className="my-2" role="status">
        {to.trim() === ''
          ? 'Say where it lies now: a place, and a folder in it.'
          : counted
            ? `${count(counted.reached, 'clip')} remember this folder; ${fitting.length} would be linked${members.length > fitting.length ? `, ${members.length - fitting.length} lead to a file that does not fit` : ''}.`
            : preview.error
              ? ''
              : 'Counting…'}
      </p>
      <MemberList members={members} label="clips under this folder" />
    </ActPanel>
  );
}

/** A value once it has been still for a moment. */
function useSettled(value: string): string {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), 250);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}

/** The folders that all of these begin with. */
export function commonFolder(folders: readonly string[]): string {
  const lists = folders.filter((f) => f !== '').map((f) => f.split('/'));
  const [first, ...rest] = lists;
  if (!first) return '';
  const shared = first.filter((part, i) =>
    rest.every((list) => first.slice(0, i + 1).every((p, j) => p === list[j]) && list[i] === part),
  );
  return shared.join('/');
}
