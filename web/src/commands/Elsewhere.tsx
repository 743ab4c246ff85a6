import { Command } from 'cmdk';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Thing } from '@legame/core/contract';
import { projects } from '../api/projects.ts';
import { addressOf, nothingChosen } from '../session/selection.ts';

/** Whoever types is not asked about at each letter. */
const restMs = 150;

/** What bears the words in places and in other projects, and the way there. */
export function Elsewhere({
  projectId,
  wanted,
  itemClass,
  onDone,
}: {
  projectId: string;
  wanted: string;
  itemClass: string;
  onDone: () => void;
}) {
  const text = useRested(wanted);
  const navigate = useNavigate();
  const { currentData: data = [] } = projects.useFindQuery({ text, beside: projectId }, { skip: text.length < 2 });
  // While more is being typed, what was found before is nothing.
  const found = text === wanted ? data : [];
  return found.map((thing) => {
    const { name, where, address } = told(thing, projectId);
    return (
      <Command.Item
        key={`${thing.what} ${address}`}
        value={`${thing.what} ${address}`}
        className={itemClass}
        onMouseDown={(event) => event.preventDefault()}
        onSelect={() => {
          onDone();
          void navigate(address);
        }}
      >
        <span className="min-w-0 truncate font-mono">{name}</span>
        <span className="truncate text-quiet">{where}</span>
      </Command.Item>
    );
  });
}

/** What it is called, where it is, and the address that shows it. Places and files are shown in the project at hand. */
function told(thing: Thing, projectId: string): { name: string; where: string; address: string } {
  const of = (id: string) => `/projects/${id}`;
  switch (thing.what) {
    case 'project':
      return { name: thing.projectName, where: 'project', address: `${of(thing.projectId)}/ledger` };
    case 'document':
      return {
        name: thing.name,
        where: thing.projectId === projectId ? 'document' : `document of ${thing.projectName}`,
        address: `${of(thing.projectId)}/intake?${new URLSearchParams({ document: thing.documentId })}`,
      };
    case 'clip': {
      const chosen = { ...nothingChosen, ids: [thing.clipId], focus: thing.clipId, status: 'all' as const };
      return {
        name: thing.fileName,
        where: `clip of ${thing.projectName}`,
        address: `${of(thing.projectId)}/ledger?${addressOf(chosen)}`,
      };
    }
    case 'place':
      return {
        name: thing.name,
        where: `place, ${thing.path}`,
        address: `${of(projectId)}/places?${new URLSearchParams({ place: thing.placeId })}`,
      };
    case 'file':
      return {
        name: thing.name,
        where: `in ${[thing.placeName, thing.folder].filter(Boolean).join('/')}`,
        address: `${of(projectId)}/places/${thing.placeId}/room?${new URLSearchParams({ folder: thing.folder })}`,
      };
  }
}

/** The text as it is once nothing was typed for a moment. */
function useRested(text: string): string {
  const [rested, setRested] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setRested(text), restMs);
    return () => clearTimeout(timer);
  }, [text]);
  return rested;
}
