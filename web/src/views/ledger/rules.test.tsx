import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { attributes, defaultRules, shippedRuleSets, type MatchRules } from '@legame/core/match';
import { jobOf } from '../../testing/job.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { placeOf } from '../../testing/place.ts';
import { projectOf } from '../../testing/project.ts';
import { refused, standInServer } from '../../testing/server.ts';
import { RulesPanel } from './RulesPanel.tsx';

const own = { name: 'Loose', rules: { ...defaultRules, ignoreExtension: true } };
let server: ReturnType<typeof standInServer>;
let inForce: MatchRules;
let sets: object[];
let isRefusing: boolean;
beforeEach(() => {
  [inForce, isRefusing] = [defaultRules, false];
  sets = [...shippedRuleSets.map((set) => ({ ...set, shipped: true })), { ...own, shipped: false }];
  server = standInServer(({ method, url, body }) => {
    const path = url.pathname;
    if (path.endsWith('/rules')) {
      if (isRefusing) return refused(409, 'project-gone', 'The project is put away.');
      inForce = JSON.parse(body) as MatchRules;
      return { ...jobOf('match-project'), payload: { projectId: uuid(1) } };
    }
    if (path.endsWith('/rule-sets')) {
      if (method === 'PUT') sets = (JSON.parse(body) as object[]).map((set) => ({ ...set, shipped: false }));
      return sets;
    }
    if (path.endsWith('/weighed')) return { rules: inForce, preferredForm: 'original', clips: [], files: [] };
    if (path === '/api/places') return [placeOf(90, 'KILN_B'), placeOf(91, 'YARD')];
    if (path.endsWith('/files')) {
      const folder = url.searchParams.get('folder') ?? '';
      return { folder, folders: folder === '' ? ['rushes'] : [], files: [] };
    }
    return path === `/api/projects/${uuid(1)}` ? projectOf({ rules: inForce }) : [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = async (chosen: string[] = []) => {
  showPage('/projects/:projectId/ledger', <RulesPanel projectId={uuid(1)} chosen={chosen} onClose={() => undefined} />);
  return within(await screen.findByRole('region', { name: 'match rules' }));
};
const put = (path: string) =>
  server.asked
    .filter((a) => a.method === 'PUT' && a.url.pathname.endsWith(path))
    .map((a) => JSON.parse(a.body) as unknown);
const isOn = (name: string) => (screen.getByRole('checkbox', { name }) as HTMLInputElement).checked;
const matchBy = () => screen.getByRole('button', { name: 'Match by these' }) as HTMLButtonElement;

describe('what matching goes by', () => {
  test('every attribute has its weight, and one that is changed is in force only when it is said', async () => {
    const panel = await show();
    for (const attribute of attributes) {
      const chosen = within(panel.getByRole('radiogroup', { name: attribute })).getByRole('radio', { checked: true });
      expect(chosen.textContent).toBe(defaultRules.weights[attribute]);
    }
    expect(matchBy().disabled).toBe(true);
    await userEvent.click(within(panel.getByRole('radiogroup', { name: 'reel' })).getByText('must'));
    expect(put('/rules')).toEqual([]);
    await userEvent.click(matchBy());
    await waitFor(() =>
      expect(put('/rules')).toEqual([{ ...defaultRules, weights: { ...defaultRules.weights, reel: 'must' } }]),
    );
    await waitFor(() => expect(matchBy().disabled).toBe(true));
  });

  test('taken back, everything is as it was and nothing was sent', async () => {
    const panel = await show();
    await userEvent.click(panel.getByRole('checkbox', { name: 'ignore the ending' }));
    await userEvent.click(panel.getByRole('checkbox', { name: 'across rates' }));
    await userEvent.click(panel.getByRole('checkbox', { name: 'any codec' }));
    expect(['ignore case', 'ignore the ending', 'across rates', 'any codec'].map(isOn)).toEqual([
      true,
      true,
      true,
      true,
    ]);
    await userEvent.click(panel.getByRole('button', { name: 'As they were' }));
    expect(['ignore case', 'ignore the ending', 'across rates', 'any codec'].map(isOn)).toEqual([
      true,
      false,
      false,
      false,
    ]);
    expect(put('/rules')).toEqual([]);
  });

  test('what is refused stays in hand, and why is said', async () => {
    isRefusing = true;
    const panel = await show();
    await userEvent.click(panel.getByRole('checkbox', { name: 'ignore the ending' }));
    await userEvent.click(matchBy());
    expect(await panel.findByRole('alert')).toBeTruthy();
    expect(isOn('ignore the ending')).toBe(true);
    expect(matchBy().disabled).toBe(false);
    isRefusing = false;
    await userEvent.click(matchBy());
    await waitFor(() => expect(put('/rules').at(-1)).toMatchObject({ ignoreExtension: true }));
  });

  test('kinds: one taken out leaves the others; all of them is everything', async () => {
    const panel = await show();
    await userEvent.click(panel.getByRole('checkbox', { name: 'still' }));
    await userEvent.click(matchBy());
    await waitFor(() => expect(put('/rules').at(-1)).toMatchObject({ kinds: ['picture', 'sound', 'sequence'] }));
    await waitFor(() => expect(matchBy().disabled).toBe(true));
    await userEvent.click(panel.getByRole('checkbox', { name: 'still' }));
    await userEvent.click(matchBy());
    await waitFor(() => expect(put('/rules').at(-1)).toMatchObject({ kinds: null }));
  });

  test('folders: only there and below, one more, and out again until it is everywhere', async () => {
    const panel = await show();
    expect(panel.getByText('all places')).toBeTruthy();
    await userEvent.click(panel.getByRole('button', { name: 'Only in…' }));
    await userEvent.click(await panel.findByRole('button', { name: 'rushes/' }));
    await userEvent.click(panel.getByRole('button', { name: 'Look here and below' }));
    expect(panel.getByRole('button', { name: 'KILN_B/rushes ×' })).toBeTruthy();
    await userEvent.click(panel.getByRole('button', { name: 'Another…' }));
    await userEvent.selectOptions(panel.getByLabelText('place'), uuid(91));
    await userEvent.click(panel.getByRole('button', { name: 'Look here and below' }));
    await userEvent.click(matchBy());
    const within2 = [
      { placeId: uuid(90), folder: 'rushes' },
      { placeId: uuid(91), folder: '' },
    ];
    await waitFor(() => expect(put('/rules').at(-1)).toMatchObject({ within: within2 }));
    await userEvent.click(panel.getByRole('button', { name: 'KILN_B/rushes ×' }));
    await userEvent.click(panel.getByRole('button', { name: 'YARD ×' }));
    expect(panel.getByText('all places')).toBeTruthy();
  });

  test('up again from a folder; leaving takes nothing in', async () => {
    const panel = await show();
    await userEvent.click(panel.getByRole('button', { name: 'Only in…' }));
    await userEvent.click(await panel.findByRole('button', { name: 'rushes/' }));
    await userEvent.click(await panel.findByRole('button', { name: '..' }));
    expect(panel.getByText('the whole place')).toBeTruthy();
    await userEvent.click(panel.getAllByRole('button', { name: 'Close' })[0]!);
    expect(panel.getByText('all places')).toBeTruthy();
    expect(matchBy().disabled).toBe(true);
  });

  test('a selection can be looked at alone, if there is one', async () => {
    await show([uuid(4), uuid(5)]);
    const box = screen.getByRole('checkbox', { name: 'only the selection (2)' }) as HTMLInputElement;
    await userEvent.click(box);
    expect(box.checked).toBe(true);
    cleanup();
    await show();
    expect((screen.getByRole('checkbox', { name: 'only the selection (0)' }) as HTMLInputElement).disabled).toBe(true);
  });
});

describe('sets of rules', () => {
  test('the one in hand is marked; another is taken up, and not yet in force', async () => {
    const panel = await show();
    const group = within(await panel.findByRole('group', { name: 'sets of rules' }));
    expect(group.getByRole('button', { pressed: true }).textContent).toBe('Usual');
    await userEvent.click(group.getByRole('button', { name: 'Loose' }));
    expect(group.getByRole('button', { pressed: true }).textContent).toBe('Loose');
    expect(isOn('ignore the ending')).toBe(true);
    expect(matchBy().disabled).toBe(false);
    expect(put('/rules')).toEqual([]);
  });

  test('kept under a name beside the others; of one name the newer stays; those that ship are not kept again', async () => {
    const panel = await show();
    await userEvent.click(panel.getByRole('checkbox', { name: 'across rates' }));
    await userEvent.type(panel.getByLabelText('name of the set'), 'Loose');
    await userEvent.click(panel.getByRole('button', { name: 'Keep' }));
    await waitFor(() =>
      expect(put('/rule-sets')).toEqual([[{ name: 'Loose', rules: { ...defaultRules, acrossRates: true } }]]),
    );
  });

  test('one that was kept can be dropped', async () => {
    const panel = await show();
    await userEvent.click(await panel.findByRole('button', { name: 'Loose' }));
    await userEvent.click(panel.getByRole('button', { name: 'Drop “Loose”' }));
    await waitFor(() => expect(put('/rule-sets')).toEqual([[]]));
    await waitFor(() => expect(panel.queryByRole('button', { name: 'Loose' })).toBeNull());
  });
});
