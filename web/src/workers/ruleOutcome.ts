import {
  decide,
  defaultForm,
  verdictIn,
  type Candidate,
  type Claim,
  type ClipInHand,
  type FileInHand,
  type Form,
  type MatchRules,
} from '@legame/core/match';
import type { WeighedClips } from '@legame/core/contract';

/** What a clip would be decided to be. */
export type RuledDecision = 'certain' | 'likely' | 'possible' | 'refused' | 'nothing';
export const ruledDecisions = ['certain', 'likely', 'possible', 'refused', 'nothing'] as const;

export type RuleOutcome = {
  readonly before: Readonly<Record<RuledDecision, number>>;
  readonly after: Readonly<Record<RuledDecision, number>>;
  /** Clips that are decided otherwise than under the rules in force; at most a few hundred, those that become certain first. */
  readonly changes: readonly {
    readonly clipId: string;
    readonly name: string;
    readonly from: RuledDecision;
    readonly to: RuledDecision;
    readonly file: string;
  }[];
  readonly changed: number;
  readonly milliseconds: number;
};

type Clip = ClipInHand & { readonly name: string };
const changesShown = 400;

/** Tries rules on clips whose evidence is at hand, with core, where the hand is on the rule. */
export class RuleTester {
  #weighed: { clip: Clip; candidates: Candidate<FileInHand>[] }[] = [];
  #claims: Claim[] = [];
  #names = new Map<string, string>();
  #before: RuledDecision[] = [];
  #form: Form = defaultForm;

  /** Takes the evidence in; asked once, and again when clips or links changed. */
  load(data: WeighedClips): void {
    const files = data.files.map((f): FileInHand => ({ ...f, nameKey: f.name.toLowerCase() }));
    this.#names = new Map(data.files.map((f) => [f.id, f.name]));
    const open = data.clips.filter((c) => c.isDark);
    this.#weighed = open.map(({ candidates, isDark: _dark, tiedTo: _tied, ...clip }) => ({
      clip,
      candidates: candidates.map(([at, marks, levels, form]) => ({ file: files[at]!, marks, levels, form })),
    }));
    this.#claims = data.clips.flatMap((clip) =>
      clip.isDark || !clip.tiedTo ? [] : [{ clip, mediaFileId: clip.tiedTo }],
    );
    this.#form = data.preferredForm;
    this.#before = decide(this.#weighed, data.rules, this.#claims, this.#form).map((d) => nameOf(d.decision));
  }

  try(rules: MatchRules, only: readonly string[] | null): RuleOutcome {
    const begun = performance.now();
    const decided = decide(this.#weighed, rules, this.#claims, this.#form);
    const milliseconds = performance.now() - begun;
    const scope = only && new Set(only);
    const [before, after] = [noneYet(), noneYet()];
    const changes: RuleOutcome['changes'][number][] = [];
    decided.forEach(({ clip, decision, candidates }, i) => {
      if (scope && !scope.has(clip.id)) return;
      const [from, to] = [this.#before[i]!, nameOf(decision)];
      before[from] += 1;
      after[to] += 1;
      if (from === to) return;
      const id =
        'mediaFileId' in decision
          ? decision.mediaFileId
          : decision.kind === 'ask'
            ? decision.mediaFileIds[0]
            : undefined;
      const named = id ?? candidates.find((c) => verdictIn(c.marks, 'name') === 'agrees')?.file.id;
      changes.push({ clipId: clip.id, name: clip.name, from, to, file: (named && this.#names.get(named)) ?? '' });
    });
    changes.sort((a, b) => ruledDecisions.indexOf(a.to) - ruledDecisions.indexOf(b.to));
    return { before, after, changes: changes.slice(0, changesShown), changed: changes.length, milliseconds };
  }
}

const noneYet = (): Record<RuledDecision, number> => ({ certain: 0, likely: 0, possible: 0, refused: 0, nothing: 0 });
const nameOf = (decision: ReturnType<typeof decide>[number]['decision']): RuledDecision =>
  // What cannot be read is nothing that rules could tie.
  decision.kind === 'ask' ? decision.certainty : decision.kind === 'unusable' ? 'nothing' : decision.kind;
