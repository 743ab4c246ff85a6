import { DndContext, PointerSensor, pointerWithin, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { useState } from 'react';
import { z } from 'zod';
import {
  contents,
  faultOf,
  folderFor,
  freeName,
  parentOf,
  withContent,
  withFolder,
  withName,
  withoutFolder,
  withParent,
  type FolderTemplate,
} from '@legame/core/folders';
import type { Home } from '@legame/core/health';
import { contentWords, templateFaultText } from '@legame/words/folders';
import { listed } from '@legame/words/handoffs';
import { folders } from '../../api/folders.ts';
import { NameForm } from '../../parts/NameForm.tsx';
import { NamedTree, type Branch } from '../../parts/NamedTree.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { MakeFolders } from './MakeFolders.tsx';

const folderName = z.string().trim().min(1).max(200);
const words = {
  ...{ top: 'Home of the project', one: 'folder' },
  takenAway: (name: string) => `Take ${name} out of the folders; on no drive is anything deleted`,
};

/** The folders of a project: changed as a tree, each change one act; what goes where; and made in a place. */
export function FoldersPanel({
  projectId,
  home,
  onClose,
}: {
  projectId: string;
  home: Home | null;
  onClose: () => void;
}) {
  const known = folders.useFolderTemplateQuery(projectId);
  const [set, done] = folders.useSetFoldersMutation();
  const [open, setOpen] = useState('');
  const [refused, setRefused] = useState<string | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  if (!known.data) return <Waiting what="the folders of the project" error={known.error} />;
  const { template, isOwn } = known.data;
  /** Takes a change, or says what speaks against it; `at` is the folder that is open then. */
  const change = async (next: FolderTemplate, at = open) => {
    const fault = faultOf(next);
    setRefused(fault && templateFaultText(fault));
    if (fault || next === template || done.isLoading) return false;
    const { error } = await set({ projectId, template: next });
    if (!error) setOpen(at);
    return !error;
  };
  const move = (path: readonly string[], into: readonly string[]) => {
    const to = [...into, path.at(-1)!].join('/');
    void change(withParent(template, path.join('/'), into.join('/')), to);
  };
  const dropped = ({ active, over }: DragEndEvent) => {
    const [what, into] = [active, over].map((one) => (one?.data.current as { branch: string[] } | undefined)?.branch);
    if (what && into) move(what, into);
  };
  return (
    <section className="flex h-full min-h-0 flex-col" aria-label="folders of the project">
      <header className="line-b px-3 py-2">
        <h3 className="font-bold">Folders of this project</h3>
        <p className="text-quiet">
          What is brought home goes into them, and so do handoffs that are asked to. Drag one onto another, or press Alt
          and an arrow; F2 renames.
        </p>
        <NameForm
          className="pt-2"
          inputClass="min-w-0 flex-1"
          schema={folderName}
          label={`name of a new folder in ${open || words.top}`}
          hint={`New folder in ${open || 'the home'}`}
          verb="Add"
          busy={done.isLoading}
          onName={async (name) => {
            if (!(await change(withFolder(template, open, name)))) throw new Error('refused');
          }}
        />
        <div className="flex gap-1.5 pt-2">
          {isOwn && (
            <button
              type="button"
              className="btn btn-plain btn-sm"
              disabled={done.isLoading}
              onClick={() => void set({ projectId, template: null })}
            >
              As every project has them
            </button>
          )}
          <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
            Back
          </button>
        </div>
        {refused && (
          <p role="alert" className="pt-1.5 text-missing">
            {refused}
          </p>
        )}
        <ProblemNote error={done.error} onClose={done.reset} />
      </header>
      <div className="min-h-0 flex-1 overflow-auto">
        <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={dropped}>
          <NamedTree
            name="folders"
            root={treeOf(template)}
            open={open === '' ? [] : open.split('/')}
            words={words}
            onOpen={(path) => setOpen(path.join('/'))}
            onMake={(path) => void change(withFolder(template, path.join('/'), freeName(template, path.join('/'))))}
            onRename={(path, name) =>
              void change(
                withName(template, path.join('/'), name.trim()),
                [...path.slice(0, -1), name.trim()].join('/'),
              )
            }
            onRemove={(path) => void change(withoutFolder(template, path.join('/')), path.slice(0, -1).join('/'))}
            onMove={move}
          />
        </DndContext>
        <Takes template={template} onChange={(next) => void change(next)} />
        <MakeFolders projectId={projectId} home={home} />
      </div>
    </section>
  );
}

function treeOf(template: FolderTemplate, path: readonly string[] = []): Branch {
  const here = path.join('/');
  const takes = template.find((f) => f.path === here)?.takes ?? [];
  return {
    path,
    name: path.at(-1) ?? '',
    branches: template.filter((f) => parentOf(f.path) === here).map((f) => treeOf(template, f.path.split('/'))),
    note: <span className="font-sans">{listed(takes.map((c) => contentWords[c]))}</span>,
  };
}

/** Into which folder each kind of media goes. */
function Takes({ template, onChange }: { template: FolderTemplate; onChange: (next: FolderTemplate) => void }) {
  return (
    <section className="line-t px-3 py-2" aria-label="what goes where">
      <h4 className="font-semibold">What goes where</h4>
      {contents.map((content) => (
        <label key={content} className="flex items-center gap-2 pt-1">
          <span className="min-w-0 flex-1">{contentWords[content]}</span>
          <select
            className="select select-sm w-44"
            value={folderFor(template, content)}
            onChange={(event) => onChange(withContent(template, content, event.target.value || null))}
          >
            <option value="">the home itself</option>
            {template.map(({ path }) => (
              <option key={path} value={path}>
                {path}
              </option>
            ))}
          </select>
        </label>
      ))}
    </section>
  );
}
