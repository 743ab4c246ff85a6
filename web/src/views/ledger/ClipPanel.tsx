import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { isDark } from '@legame/core/state';
import type { WeighedFile } from '@legame/core/contract';
import { useCommand } from '../../commands/useCommand.ts';
import { acts } from '../../api/acts.ts';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { StatusMark } from '../../parts/StatusMark.tsx';
import { statusSentence, whySentence } from '@legame/words/statuses';
import { AcceptedCopy } from './AcceptedCopy.tsx';
import { CarryPanel } from './CarryPanel.tsx';
import { ClipUses } from './ClipUses.tsx';
import { Compare } from './Compare.tsx';
import { ComparePictures } from './ComparePictures.tsx';
import { DecisionNote } from './DecisionNote.tsx';
import { PointByHand } from './PointByHand.tsx';
import { SwapPanel } from './SwapPanel.tsx';
import { WaivePanel } from './WaivePanel.tsx';

type Mode =
  | { readonly kind: 'compare' }
  | { readonly kind: 'point' }
  | { readonly kind: 'waive' }
  | { readonly kind: 'copy' | 'swap'; readonly weighed: WeighedFile }
  | { readonly kind: 'carry'; readonly mediaFileId: string };

/** One clip in full: why it is dark, its candidates side by side with what is remembered, and what can be done. */
export function ClipPanel({ projectId, clipId, chosen }: { projectId: string; clipId: string; chosen: number }) {
  const clip = api.useClipQuery(clipId);
  const [link, linked] = api.useLinkMutation();
  const [decline, declined] = api.useDeclineMutation();
  const [setAside, aside] = api.useSetAsideMutation();
  const [reread, reading] = storage.useRereadMutation();
  const [putBack, put] = acts.usePutBackMutation();
  const [pin, pinned] = acts.usePinMutation();
  const [mode, setMode] = useState<Mode>({ kind: 'compare' });
  /** A file that a person looked at by hand; else the tied one or a candidate is shown. */
  const [pointed, setPointed] = useState<string | null>(null);
  const [candidateAt, setCandidateAt] = useState(0);
  const weighed = api.useWeighQuery({ clipId, mediaFileId: pointed ?? '' }, { skip: pointed === null });

  const detail = clip.data;
  const candidates = detail?.candidatesInFull ?? [];
  const isTied = detail?.tiedFile !== null && detail?.tiedFile !== undefined;
  const [lookAround, setLookAround] = useState(false);
  // The file it was linked to is gone, and one candidate is certain: that one is what there is to look at.
  const isLost = detail?.status.status === 'missing' && detail.decision === 'certain';
  const shown = pointed
    ? (weighed.data ?? null)
    : isTied && !lookAround && !isLost
      ? detail.tiedFile
      : (candidates[candidateAt] ?? null);
  const isShownTied = shown !== null && shown.file.id === detail?.tiedFile?.file.id;
  const hasLink = detail?.tied !== null && detail?.tied !== undefined && detail.tied.by !== 'remembered';

  const doLink = async (mediaFileId: string) => {
    const act = await link({ projectId, by: 'hand', links: [{ clipId, mediaFileId }] })
      .unwrap()
      .catch(() => null);
    if (act) {
      setPointed(null);
      setLookAround(false);
    }
    return act !== null;
  };
  useCommand(
    'link-shown',
    () => {
      // What differs in what must agree is never linked by a key alone.
      if (shown?.refusedFor.length) setMode({ kind: 'swap', weighed: shown });
      else if (shown) void doLink(shown.file.id);
    },
    mode.kind !== 'compare'
      ? 'Close what is open beside the rows first.'
      : !shown
        ? 'There is no candidate to link.'
        : isShownTied
          ? 'The clip is linked to this file already.'
          : null,
  );
  useCommand('point', () => setMode({ kind: 'point' }));
  useCommand(
    'carry',
    () => shown && setMode({ kind: 'carry', mediaFileId: shown.file.id }),
    shown ? null : 'There is no file whose link could be carried.',
  );
  useHotkeys('esc', () => setMode({ kind: 'compare' }), { enabled: mode.kind !== 'compare' });

  if (!detail) return <Waiting what="the clip" error={clip.error} />;
  if (mode.kind === 'point') {
    return (
      <PointByHand
        clipName={detail.fileName}
        startAt={shown ? { placeId: shown.file.placeId, folder: shown.file.folder } : null}
        onClose={() => setMode({ kind: 'compare' })}
        onChoose={(mediaFileId) => {
          setPointed(mediaFileId);
          setMode({ kind: 'compare' });
        }}
      />
    );
  }
  if (mode.kind === 'carry')
    return (
      <CarryPanel
        projectId={projectId}
        clip={detail}
        mediaFileId={mode.mediaFileId}
        onClose={() => setMode({ kind: 'compare' })}
      />
    );
  if (mode.kind === 'swap')
    return (
      <SwapPanel
        projectId={projectId}
        clip={detail}
        weighed={mode.weighed}
        onClose={() => setMode({ kind: 'compare' })}
      />
    );
  if (mode.kind === 'waive')
    return <WaivePanel projectId={projectId} rows={[detail]} onClose={() => setMode({ kind: 'compare' })} />;
  if (mode.kind === 'copy')
    return <AcceptedCopy projectId={projectId} weighed={mode.weighed} onClose={() => setMode({ kind: 'compare' })} />;
  const status = detail.status.status;
  const setClipAside = (as: 'parked' | 'waived') =>
    void setAside({ projectId, clipIds: [clipId], as: status === as ? null : as });
  return (
    <section className="flex h-full flex-col" aria-label="clip">
      <div className="min-h-0 flex-1 overflow-auto p-3.5 pb-2">
        <div className="flex items-start justify-between gap-2">
          <h2 className="font-mono text-[15px]! font-semibold [overflow-wrap:anywhere]">{detail.fileName}</h2>
          {chosen > 1 && <span className="shrink-0 text-quiet">1 of {chosen} selected</span>}
        </div>
        {detail.name !== detail.fileName && <p className="text-quiet">called “{detail.name}” in the edit</p>}
        <div className="mt-1 flex items-baseline gap-2">
          <StatusMark status={status} />
          <span className="[overflow-wrap:anywhere]">
            {detail.why && isDark(status) ? whySentence(detail.why) : statusSentence(detail.status)}
          </span>
        </div>
        <DecisionNote clip={detail} />
        {!pointed && (!isTied || lookAround || isLost) && candidates.length > 1 && (
          <div className="mt-2 flex flex-wrap gap-1.5" role="group" aria-label="candidates">
            {candidates.map((c, i) => (
              <button
                key={c.file.id}
                type="button"
                aria-pressed={i === candidateAt}
                className={`rounded border px-2 py-0.5 font-mono ${i === candidateAt ? 'border-base-content font-semibold' : 'border-base-300'}`}
                title={`${c.file.placeName}/${c.file.folder}/${c.file.name}`}
                onClick={() => setCandidateAt(i)}
              >
                {c.file.folder.split('/').at(-1) || c.file.placeName}/{c.file.name}
              </button>
            ))}
          </div>
        )}
        {!pointed && !isTied && detail.decision === 'ask' && candidates[0] && candidates[1] && (
          <ComparePictures one={candidates[0]} other={candidates[1]} />
        )}
        {pointed && <p className="mt-2 text-quiet">A file chosen by hand. It is linked only when you say so.</p>}
        {pointed && !weighed.data ? (
          <Waiting what="the file" error={weighed.error} />
        ) : (
          <Compare clip={detail} weighed={shown} />
        )}
        <ClipUses clip={detail} />
      </div>
      <div className="line-t flex flex-wrap gap-1.5 px-3.5 py-2">
        {shown && !isShownTied && (
          <>
            <button
              type="button"
              className={`btn btn-sm ${shown.refusedFor.length ? 'btn-plain' : 'btn-primary'}`}
              disabled={linked.isLoading}
              title={shown.refusedFor.length ? 'It differs in what must agree; you can still decide so' : 'Enter'}
              onClick={() =>
                shown.refusedFor.length ? setMode({ kind: 'swap', weighed: shown }) : void doLink(shown.file.id)
              }
            >
              {shown.refusedFor.length ? 'Swap to this…' : 'Link'}
            </button>
            <button
              type="button"
              className="btn btn-plain btn-sm"
              disabled={linked.isLoading}
              title="y"
              onClick={() => setMode({ kind: 'carry', mediaFileId: shown.file.id })}
            >
              Link and carry…
            </button>
            {!pointed && (
              <button
                type="button"
                className="btn btn-plain btn-sm"
                disabled={declined.isLoading}
                onClick={() => void decline({ clipId, mediaFileId: shown.file.id }).then(() => setCandidateAt(0))}
              >
                Not this one
              </button>
            )}
          </>
        )}
        {isShownTied && (
          <button
            type="button"
            className="btn btn-plain btn-sm"
            title="Take the clip offline on purpose. It comes back when you link it, or by Undo"
            disabled={linked.isLoading}
            onClick={() => void link({ projectId, by: 'hand', links: [{ clipId, mediaFileId: null }] })}
          >
            Unlink
          </button>
        )}
        {isShownTied && hasLink && (
          <>
            <button
              type="button"
              className="btn btn-plain btn-sm"
              title="y"
              onClick={() => setMode({ kind: 'carry', mediaFileId: shown.file.id })}
            >
              Carry to others…
            </button>
            <button
              type="button"
              className="btn btn-plain btn-sm"
              title="i: no rule, carry or cause may change a pinned link"
              disabled={pinned.isLoading}
              onClick={() => void pin({ projectId, clipIds: [clipId], pinned: !detail.pinned })}
            >
              {detail.pinned ? 'Unpin' : 'Pin'}
            </button>
            {detail.remembered && (
              <button
                type="button"
                className="btn btn-plain btn-sm"
                title="Copy the file to where the edit expects it; nothing is written over"
                disabled={put.isLoading}
                onClick={() => void putBack({ projectId, clipIds: [clipId] })}
              >
                Put back
              </button>
            )}
          </>
        )}
        {isTied && candidates.length > 0 && !pointed && isDark(status) && (
          <button type="button" className="btn btn-plain btn-sm" onClick={() => setLookAround(!lookAround)}>
            {lookAround ? 'Show the linked file' : 'Other candidates'}
          </button>
        )}
        {pointed && (
          <button type="button" className="btn btn-plain btn-sm" onClick={() => setPointed(null)}>
            Back to the candidates
          </button>
        )}
        <button type="button" className="btn btn-plain btn-sm" title="o" onClick={() => setMode({ kind: 'point' })}>
          Point by hand…
        </button>
        {shown && (
          <button
            type="button"
            className="btn btn-plain btn-sm"
            title="r: forget what is remembered of its files, pictures included, and measure them again"
            disabled={reading.isLoading}
            onClick={() => void reread({ clipIds: [clipId] })}
          >
            Read again
          </button>
        )}
        {isShownTied && shown.file.facts?.kind === 'picture' && !shown.file.sequence && (
          <button
            type="button"
            className="btn btn-plain btn-sm"
            onClick={() => setMode({ kind: 'copy', weighed: shown })}
          >
            Make an accepted copy…
          </button>
        )}
        {(isDark(status) || status === 'waived') && (
          <>
            <button
              type="button"
              className="btn btn-plain btn-sm"
              title="k: leave it for later"
              disabled={aside.isLoading}
              onClick={() => setClipAside('parked')}
            >
              {status === 'parked' ? 'Take up again' : 'Park'}
            </button>
            <button
              type="button"
              className="btn btn-plain btn-sm"
              title="w: it needs no media"
              disabled={aside.isLoading}
              onClick={() => (status === 'waived' ? setClipAside('waived') : setMode({ kind: 'waive' }))}
            >
              {status === 'waived' ? 'Needs media after all' : 'Waive…'}
            </button>
          </>
        )}
      </div>
      <div className="px-3.5">
        <ProblemNote
          error={linked.error ?? declined.error ?? aside.error ?? reading.error ?? put.error ?? pinned.error}
          onClose={put.error ? put.reset : linked.reset}
        />
      </div>
    </section>
  );
}
