import { afterEach, expect, test } from '@jest/globals';
import { act, cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { showPage, uuid } from '../testing/page.tsx';
import { useAsked } from './useAsked.ts';

afterEach(cleanup);

function Shown() {
  const [chosen, setChosen] = useAsked('place');
  return (
    <button type="button" onClick={() => setChosen('another')}>
      {chosen ?? 'none'}
    </button>
  );
}
const shown = () => screen.getByRole('button').textContent;

test('what the address asks for is shown, until another is chosen, and again when it asks for another', async () => {
  const at = `/projects/${uuid(1)}/places`;
  const { router } = showPage('/projects/:projectId/places', <Shown />, `${at}?place=kiln`);
  expect(shown()).toBe('kiln');
  await userEvent.click(screen.getByRole('button'));
  expect(shown()).toBe('another');
  await act(() => router.navigate(`${at}?place=shed`));
  expect(shown()).toBe('shed');
  await act(() => router.navigate(at));
  expect(shown()).toBe('none');
});
