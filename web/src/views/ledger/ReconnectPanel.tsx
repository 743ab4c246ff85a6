import { useEffect, useMemo, useState } from 'react';
import { mostDropped, type DroppedAnswer } from '@legame/core/contract';
import type { DroppedFile } from '@legame/core/match';
import { comesBack } from '@legame/core/state';
import { bytes, clock, count, group } from '@legame/words/numbers';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { ActPanel } from '../../parts/ActPanel.tsx';
import { MemberList } from '../../parts/MemberList.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import type { InHand } from '../../workers/droppedMedia.ts';
import { readInWorker } from '../../workers/droppedReader.ts';

/**
 * What files are that were dropped onto the page: the dark clips they are for where they lie in a place; else the folder
 * that would have to be one. Their headers are read here; the files themselves stay where they are.
 */
export function ReconnectPanel({
  projectId,
  files,
  clipId,
  onClose,
}: {
  projectId: string;
  files: readonly InHand[];
  clipId: string | null;
  onClose: () => void;
}) {
  const [look, looked] = acts.useLookAtDroppedMutation();
  const [link, linked] = api.useLinkMutation();
  const [media, setMedia] = useState<readonly DroppedFile[] | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    let isCurrent = true;
    void readInWorker(files).then((read) => isCurrent && setMedia(read));
    return () => {
      isCurrent = false;
    };
  }, [files]);
  const asked = useMemo(
    () => (media?.length ? { projectId, files: media.slice(0, mostDropped), ...(clipId ? { clipId } : {}) } : null),
    [projectId, media, clipId],
  );
  useEffect(() => {
    if (asked) void look(asked);
  }, [look, asked]);
  if (media?.length === 0) return <NoMedia files={files.length} onClose={onClose} />;
  if (!looked.data) return <Waiting what={`what ${count(files.length, 'file')} are for`} error={looked.error} />;
  const { members, here, elsewhere } = looked.data;
  const fitting = members.filter((m) => m.fits);
  const going = fitting.filter((m) => !left.has(m.clipId));
  const links = going.map((m) => ({ clipId: m.clipId, mediaFileId: m.file!.mediaFileId }));
  const leave = (id: string) =>
    setLeft((before) => new Set(before.has(id) ? [...before].filter((other) => other !== id) : [...before, id]));
  return (
    // A list of clips may be long; what is said of folders is as high as it is.
    <div className={members.length > 0 ? 'h-[78vh]' : ''}>
      <ActPanel
        label="files in hand"
        title={`${count(media?.length ?? files.length, 'media file')} in hand`}
        verb={fitting.length > 0 ? `Link ${going.length}` : null}
        isPossible={going.length > 0}
        asked={linked}
        onAct={() => link({ projectId, by: 'hand', links }).unwrap()}
        onClose={onClose}
        evidence={fitting.length > 0}
      >
        <p className="mt-1 mb-2" role="status">
          {here > 0 && `${count(here, 'of them lies', 'of them lie')} in a place. `}
          {members.length > 0
            ? `They are for ${count(fitting.length, 'dark clip')}; ${clock(looked.data.backSeconds)} of screen time comes back, in ${count(going.filter(comesBack).length, 'clip')}.`
            : here > 0
              ? 'Matching names none of them for a dark clip: nothing is linked by a name alone.'
              : 'None of them lies in a place yet.'}
        </p>
        {media && <LeftOut files={files.length} media={media.length} />}
        {elsewhere.map((folder, i) => (
          <Elsewhere key={i} folder={folder} onLookAgain={() => asked && void look(asked)} />
        ))}
        {members.length > 0 && (
          <MemberList members={members} left={left} onLeave={leave} label="clips that the files are for" />
        )}
      </ActPanel>
    </div>
  );
}

/** Files that are not looked at, where there are any. */
function LeftOut({ files, media }: { files: number; media: number }) {
  const said = [
    media < files && `${count(files - media, 'other file')} ${files - media === 1 ? 'is' : 'are'} no media by name.`,
    media > mostDropped &&
      `Only the first ${group(mostDropped)} were looked at: drop the others afterwards, or make their folder a place.`,
  ].filter(Boolean);
  return said.length > 0 && <p className="mb-2 text-quiet">{said.join(' ')}</p>;
}

const NoMedia = ({ files, onClose }: { files: number; onClose: () => void }) => (
  <section className="p-3.5" aria-label="files in hand">
    <h2 className="text-[15px] font-semibold">No media</h2>
    <p className="my-2">
      {count(files, 'file')}, and by {files === 1 ? 'its name' : 'their names'} no picture, sound or still. Timelines
      and logs are brought in at Intake.
    </p>
    <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
      Close
    </button>
  </section>
);

/** Files of one dropped folder that lie in no place: what they would be for, and the way to make them count. */
function Elsewhere({ folder, onLookAgain }: { folder: DroppedAnswer['elsewhere'][number]; onLookAgain: () => void }) {
  const [add, added] = storage.useAddPlaceMutation();
  const [chosen, setChosen] = useState<string | null>(null);
  const what =
    folder.folder === null
      ? `${count(folder.files, 'file')} by ${folder.files === 1 ? 'itself' : 'themselves'}`
      : `“${folder.folder}”`;
  return (
    <section className="line-t py-2" aria-label={`not in a place: ${folder.folder ?? 'single files'}`}>
      <p>
        <b className="[overflow-wrap:anywhere]">{what}</b>
        <span className="text-quiet">
          {' '}
          {folder.folder !== null && `${count(folder.files, 'file')}, `}
          {bytes(folder.sizeInBytes)}: {folder.names.join(', ')}
          {folder.files > folder.names.length && '…'}
        </span>
      </p>
      <p>
        {folder.clips > 0
          ? `Fits ${count(folder.clips, 'dark clip')}, and lies in no place. `
          : 'Fits no dark clip, and lies in no place. '}
        {folder.inPlace !== null
          ? `It lies in ${folder.inPlace}, which does not know of it: refresh that place, or look at what it leaves out.`
          : folder.lies.length > 0
            ? 'To link from it, its folder has to be a place:'
            : 'Add the folder in which it lies at Places; it was not found where Legame may look, in the few seconds it looks.'}
      </p>
      {folder.inPlace === null && chosen === null && (
        <div className="mt-1 flex flex-wrap gap-1.5">
          {folder.lies.map((path) => (
            <button
              key={path}
              type="button"
              className="btn btn-plain btn-sm"
              disabled={added.isLoading}
              onClick={() =>
                void add({ path, knownAs: [] })
                  .unwrap()
                  .then(() => setChosen(path))
                  .catch(() => undefined)
              }
            >
              Add <span className="font-mono">{path}</span> as a place
            </button>
          ))}
        </div>
      )}
      {chosen !== null && (
        <p className="mt-1 flex items-center gap-2" role="status">
          Added. When it is read and matched:
          <button type="button" className="btn btn-plain btn-sm" onClick={onLookAgain}>
            Look again
          </button>
        </p>
      )}
      <ProblemNote error={added.error} onClose={added.reset} />
    </section>
  );
}
