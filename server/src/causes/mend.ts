import type { ClipId, ProjectId } from '@legame/core/model';
import type { Act } from '@legame/core/contract';
import { causeByKey, chosenLinks, explainDark, nearLinks, preparedIn } from './explained.ts';
import type { Context } from '../context.ts';
import { linkClips, type WantedLink } from '../links/link.ts';
import { UserProblem } from '../problems.ts';

/**
 * Mends one cause: links what it explains, as one act. By how things stand now, so that nothing is linked on what was
 * seen a while ago. Where a person has to say, `alternative` is the folder in which the right files lie; `except`
 * are clips that are left as they are.
 */
export async function mendCause(
  context: Pick<Context, 'db'>,
  projectId: ProjectId,
  key: string,
  { alternative, except = [] }: { alternative?: string | undefined; except?: readonly ClipId[] | undefined } = {},
): Promise<Act> {
  const explained = await explainDark(context.db, projectId);
  const cause = causeByKey(explained, key);
  const left = new Set(except);
  const all: readonly WantedLink[] =
    alternative !== undefined
      ? cause.kind.code === 'choice'
        ? chosenLinks(explained, cause, alternative)
        : nearLinks(explained, cause, alternative)
      : cause.links;
  const links = all.filter((l) => !left.has(l.clipId)).map((l) => ({ ...l, asOf: explained.states.get(l.clipId) }));
  if (links.length === 0) throw new UserProblem({ code: 'cause-needs-a-person' });
  const about = { code: 'cause', kind: cause.kind } as const;
  return linkClips(context, projectId, { by: 'cause', about, preparedFor: preparedIn(explained) }, links);
}
