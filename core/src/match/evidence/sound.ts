import { doesNotApply, editSaysNothing, fileSaysNothing, notReadYet, type AttributeCheck } from './evidence.ts';

/** Channels and sample rate. With one of the two known and equal, sound nearly agrees. */
export const soundCheck: AttributeCheck = {
  attribute: 'sound',
  weigh({ clip, known }, { file }) {
    // A rate of thousands a second counts samples: the edit says it so.
    const counted = clip.rate.den === 1 && clip.rate.num >= 8000 ? clip.rate.num : null;
    const edit = { channels: known?.channels ?? null, sampleRate: known?.sampleRate ?? counted };
    if (edit.channels === null && edit.sampleRate === null) return editSaysNothing;
    if (!file.facts) return notReadYet;
    if (file.facts.kind === 'still' || file.facts.kind === 'sequence') return doesNotApply;
    const found = { channels: file.facts.channels, sampleRate: file.facts.sampleRate };
    const pairs = [
      [edit.channels, found.channels],
      [edit.sampleRate, found.sampleRate],
    ].filter((pair): pair is [number, number] => pair[0] !== null && pair[1] !== null);
    if (pairs.length === 0) return fileSaysNothing;
    const forms = { edit, file: found };
    if (pairs.some(([a, b]) => a !== b)) return { verdict: 'differs', finding: { code: 'sound-differs', ...forms } };
    return pairs.length === 2
      ? { verdict: 'agrees', finding: { code: 'sound-equal', ...forms } }
      : { verdict: 'nearly', finding: { code: 'sound-partly', ...forms } };
  },
};
