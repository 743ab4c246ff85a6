import { span, time } from './edits.ts';

type Read = {
  readonly name: string;
  readonly url: string;
  readonly holds: [number, number];
  readonly reads: [number, number];
};
const clip = ({ name, url, holds, reads }: Read, effects: readonly object[] = []) => ({
  OTIO_SCHEMA: 'Clip.2',
  name,
  source_range: span(...reads),
  effects,
  media_references: {
    DEFAULT_MEDIA: { OTIO_SCHEMA: 'ExternalReference.1', target_url: url, available_range: span(...holds) },
  },
  active_media_reference_key: 'DEFAULT_MEDIA',
});
const hour = 90_000;
export const kiln = (name: string) => `file:///Volumes/KILN/day1/${name}`;
const open = { name: 'open.mov', url: kiln('open.mov'), holds: [hour, 250] as [number, number] };
const groups = { name: 'groups.mov', url: kiln('groups.mov'), holds: [10 * hour, 250] as [number, number] };
const bare = { name: 'bare.mov', url: kiln('bare.mov'), holds: [0, 250] as [number, number] };
const sound = { name: 'voice.wav', url: kiln('voice.wav'), holds: [hour, 500] as [number, number] };
const song = { name: 'song.mp3', url: kiln('song.mp3'), holds: [0, 250] as [number, number] };
const titles = {
  ...clip({ name: 'titles', url: '', holds: [1001, 100], reads: [1041, 20] }),
  media_references: {
    DEFAULT_MEDIA: {
      OTIO_SCHEMA: 'ImageSequenceReference.1',
      target_url_base: 'file:///Volumes/KILN/titles/',
      name_prefix: 'title_',
      name_suffix: '.png',
      start_frame: 1001,
      frame_step: 1,
      rate: 25,
      frame_zero_padding: 4,
      available_range: span(1001, 100),
    },
  },
};
const backwards = [{ OTIO_SCHEMA: 'LinearTimeWarp.1', name: '', effect_name: '', time_scalar: -2 }];
const track = (kind: string, children: readonly object[]) => ({ OTIO_SCHEMA: 'Track.1', kind, children });
const dissolve = {
  OTIO_SCHEMA: 'Transition.1',
  transition_type: 'SMPTE_Dissolve',
  in_offset: time(5),
  out_offset: time(5),
};
/** A timeline that uses a film in each way: with a dissolve, backwards, from its very start; a sequence, sound, a song. */
export const cutOfAll = JSON.stringify({
  OTIO_SCHEMA: 'Timeline.1',
  name: 'cut',
  tracks: {
    OTIO_SCHEMA: 'Stack.1',
    children: [
      track('Video', [
        clip({ ...open, reads: [hour + 100, 25] }),
        dissolve,
        clip({ ...groups, reads: [10 * hour + 60, 25] }),
        clip({ ...open, reads: [hour + 200, 20] }),
        clip({ ...bare, reads: [50, 10] }),
        clip({ ...groups, reads: [10 * hour + 180, 10] }, backwards),
        clip({ ...open, reads: [hour, 5] }),
        titles,
      ]),
      track('Audio', [clip({ ...sound, reads: [hour + 240, 50] }), clip({ ...song, reads: [100, 50] })]),
    ],
  },
});
