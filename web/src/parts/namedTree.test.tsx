import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { DndContext } from '@dnd-kit/core';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { NamedTree, type Branch } from './NamedTree.tsx';

type Path = readonly string[];
const branch = (path: Path, ...branches: Branch[]): Branch => ({ path, name: path.at(-1) ?? '', branches, note: '' });
const hands = { onMake: jest.fn(), onRename: jest.fn(), onRemove: jest.fn(), onMove: jest.fn() };
const words = { top: 'All clips', one: 'bin', takenAway: (name: string) => `Remove ${name}` };

function Shown({ root, first = [] }: { root: Branch; first?: Path }) {
  const [open, setOpen] = useState<Path>(first);
  return (
    <DndContext>
      <NamedTree name="bins" root={root} open={open} words={words} onOpen={setOpen} {...hands} />
    </DndContext>
  );
}
afterEach(() => {
  cleanup();
  Object.values(hands).forEach((hand) => hand.mockReset());
});
const lines = () => screen.getAllByRole('treeitem');
const texts = () => lines().map((line) => line.textContent.trim());
const opened = () => lines().find((line) => line.getAttribute('aria-selected') === 'true')!;
const isOpen = (name: string) => waitFor(() => expect(opened().textContent).toContain(name));
const keys = async (...pressed: string[]) => {
  for (const key of pressed) {
    await userEvent.keyboard(key);
    await waitFor(() => expect(document.activeElement).toBe(opened()));
  }
};

describe('a tree of five thousand', () => {
  const days = Array.from({ length: 50 }, (_, d) =>
    branch([`day ${d}`], ...Array.from({ length: 100 }, (__, c) => branch([`day ${d}`, `card ${c}`]))),
  );
  const root = branch([], ...days);

  test('draws what is in sight, and says of each line which of how many it is', () => {
    render(<Shown root={root} />);
    expect(lines().length).toBeLessThan(60);
    const second = lines().find((line) => line.textContent.includes('card 1'))!;
    expect([second.getAttribute('aria-level'), second.ariaPosInSet ?? second.getAttribute('aria-posinset')]).toEqual([
      '3',
      '2',
    ]);
    expect(second.getAttribute('aria-setsize')).toBe('100');
  });

  test('what is open is drawn wherever it lies, so that the keys find it', async () => {
    render(<Shown root={root} first={['day 49', 'card 99']} />);
    await isOpen('card 99');
    opened().focus();
    await keys('{ArrowUp}');
    await isOpen('card 98');
    await keys('{ArrowLeft}');
    await isOpen('day 49');
    await keys('{ArrowLeft}', '{ArrowUp}');
    await isOpen('card 99');
    expect(opened().id).toContain('day 48');
  });
});

describe('the keys', () => {
  const root = branch([], branch(['a'], branch(['a', 'one']), branch(['a', 'two'])), branch(['b']));

  test('go through the lines, and fold and unfold', async () => {
    render(<Shown root={root} />);
    opened().focus();
    await keys('{ArrowDown}', '{ArrowLeft}');
    expect(texts()).toEqual(['All clips', '▸a', 'b']);
    await keys('{ArrowRight}', '{ArrowRight}');
    await isOpen('one');
    await keys('{End}');
    await isOpen('b');
    await keys('{Home}');
    await isOpen('All clips');
  });

  test('what lies in a branch that is folded is open still, and the tree stays where it is', async () => {
    render(<Shown root={root} first={['a', 'two']} />);
    await userEvent.click(screen.getByText('▾'));
    expect(texts()).toEqual(['All clips', '▸a', 'b']);
  });

  test('rename, take away, and nest into the sibling before it', async () => {
    render(<Shown root={root} first={['b']} />);
    opened().focus();
    await userEvent.keyboard('{Alt>}{ArrowRight}{/Alt}');
    expect(hands.onMove).toHaveBeenLastCalledWith(['b'], ['a']);
    await userEvent.keyboard('{Delete}');
    expect(hands.onRemove).toHaveBeenLastCalledWith(['b']);
    await userEvent.keyboard('{F2}');
    await screen.findByLabelText('new name of b');
    await userEvent.keyboard('salt{Enter}');
    expect(hands.onRename).toHaveBeenLastCalledWith(['b'], 'salt');
  });
});
