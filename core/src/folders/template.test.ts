import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { nameKey, safeName } from '../paths/names.ts';
import {
  contents,
  deepestFolder,
  defaultTemplate,
  depthOf,
  faultOf,
  folderFor,
  freeName,
  mostFolders,
  nameOf,
  parentOf,
  withContent,
  withFolder,
  withName,
  withoutFolder,
  withParent,
  type FolderTemplate,
} from './index.ts';

const paths = (template: FolderTemplate) => template.map((f) => f.path);
const faulty = (...some: string[]) => faultOf(some.map((path) => ({ path, takes: [] })))?.why ?? null;

describe('the folders of a project', () => {
  test('as every project has them take all that an edit is made of, and have no fault', () => {
    expect(faultOf(defaultTemplate)).toBeNull();
    expect(['picture', 'sound', 'still', 'sequence'].map((c) => folderFor(defaultTemplate, c as 'picture'))).toEqual([
      'picture',
      'sound',
      'stills',
      'picture',
    ]);
    expect(folderFor(defaultTemplate, 'other')).toBe('');
  });

  test('are refused where some system could not make them, or two would be one', () => {
    expect(faulty('picture', 'picture/day 1')).toBeNull();
    for (const name of ['a:b', 'out.', 'CON', '..', '.', '', 'what?', 'tab\t', 'x'.repeat(300)])
      expect([name, faulty('a', `a/${name}`)]).toEqual([name, 'unsafe-name']);
    for (const path of ['/etc', 'a/', '//a']) expect(faulty('a', path)).not.toBeNull();
    expect(faulty('Picture', 'picture')).toBe('same-name');
    // One letter with its mark, and the two put together.
    expect(faulty('caf\u00e9', 'cafe\u0301')).not.toBeNull();
    expect(faulty('sound', 'picture/day 1')).toBe('no-parent');
    expect(faulty('picture/day 1', 'picture')).toBe('no-parent');
    const deep = Array.from({ length: deepestFolder + 1 }, (_, i) =>
      Array(i + 1)
        .fill('a')
        .join('/'),
    );
    expect(faulty(...deep)).toBe('too-deep');
    expect(faulty(...deep.slice(0, -1))).toBeNull();
    expect(faulty(...Array.from({ length: mostFolders + 1 }, (_, i) => `f${i}`))).toBe('too-many');
    expect(
      faultOf([
        { path: 'a', takes: ['sound'] },
        { path: 'b', takes: ['sound'] },
      ])?.why,
    ).toBe('taken-twice');
  });

  test('go with the folder that they lie in when it is moved or renamed, and go when it goes', () => {
    const days = withFolder(withFolder(defaultTemplate, 'picture', 'day 1'), 'picture/day 1', 'cam A');
    expect(paths(days).slice(0, 4)).toEqual(['picture', 'picture/day 1', 'picture/day 1/cam A', 'sound']);
    const moved = withParent(days, 'picture/day 1', 'out');
    expect(paths(moved).slice(-3)).toEqual(['out', 'out/day 1', 'out/day 1/cam A']);
    expect(paths(withName(moved, 'out', 'delivery')).slice(-3)).toEqual([
      'delivery',
      'delivery/day 1',
      'delivery/day 1/cam A',
    ]);
    expect(folderFor(withName(days, 'picture', 'film'), 'picture')).toBe('film');
    expect(paths(withoutFolder(days, 'picture'))).not.toContain('picture/day 1/cam A');
    expect(folderFor(withoutFolder(days, 'picture'), 'picture')).toBe('');
    expect(withParent(days, 'picture', 'picture/day 1')).toBe(days);
    expect(freeName(withFolder(withFolder(days, '', 'New Folder'), 'out', 'new folder 2'), '')).toBe('new folder 2');
    expect(freeName(withFolder(days, '', 'new folder'), 'out')).toBe('new folder');
    // A name that begins alike is another folder.
    expect(paths(withoutFolder(withFolder(days, '', 'pictures'), 'picture'))).toContain('pictures');
  });

  test('whatever is done to them: each stands behind its parent, nothing is taken twice, and what is not moved stays', () => {
    const name = fc.constantFrom('a', 'b', 'A', 'day 1', 'x');
    const change = fc.record({
      what: fc.constantFrom('add', 'rename', 'remove', 'move', 'take'),
      at: fc.nat(),
      to: fc.nat(),
      name,
      content: fc.constantFrom(...contents),
    });
    fc.assert(
      fc.property(fc.array(change, { maxLength: 25 }), (changes) => {
        let template: FolderTemplate = defaultTemplate;
        for (const { what, at, to, name: called, content } of changes) {
          const one = template[at % template.length]?.path ?? '';
          const other = ['', ...paths(template)][to % (template.length + 1)]!;
          const next =
            what === 'add'
              ? withFolder(template, other, called)
              : what === 'rename'
                ? withName(template, one, called)
                : what === 'remove'
                  ? withoutFolder(template, one)
                  : what === 'move'
                    ? withParent(template, one, other)
                    : withContent(template, content, one || null);
          const fault = faultOf(next);
          // A change by hand can only give two folders one name, or lead too deep; all else is right by itself.
          expect([null, 'same-name', 'too-deep']).toContain(fault?.why ?? null);
          if (fault) continue;
          if (what === 'move') expect(next).toHaveLength(template.length);
          if (what === 'take') expect(folderFor(next, content)).toBe(one);
          template = next;
          if (template.length === 0) return;
        }
        const keys = new Set(template.map((f) => nameKey(f.path)));
        expect(keys.size).toBe(template.length);
        for (const { path } of template) {
          expect(safeName(nameOf(path))).toBe(nameOf(path));
          expect(depthOf(path)).toBeLessThanOrEqual(deepestFolder);
          if (parentOf(path))
            expect(paths(template).indexOf(parentOf(path))).toBeLessThan(paths(template).indexOf(path));
        }
      }),
      { numRuns: 300 },
    );
  });
});
