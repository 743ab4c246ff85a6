import type { ReactNode } from 'react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';

/** A list, and beside it what is known of the one in hand; the line between them is moved, and stays where it was. */
export function ListAndPanel({
  name,
  listClass = 'flex min-w-0 flex-col',
  panel,
  panelSize = '372px',
  panelAtMost = '60%',
  panelClass = 'bg-base-100',
  children,
}: {
  /** What is remembered of the line is kept under it. */
  name: string;
  listClass?: string;
  panel: ReactNode;
  panelSize?: string;
  panelAtMost?: string;
  panelClass?: string;
  children: ReactNode;
}) {
  const layout = useDefaultLayout({ id: `legame-${name}`, storage: localStorage });
  return (
    <Group
      orientation="horizontal"
      className="h-full"
      defaultLayout={layout.defaultLayout}
      onLayoutChanged={layout.onLayoutChanged}
    >
      <Panel id="list" minSize="320px" className={listClass}>
        {children}
      </Panel>
      <Separator className="w-[5px] border-l border-base-300 bg-base-100 hover:bg-[var(--bond-wash)]" />
      <Panel id="panel" defaultSize={panelSize} minSize="240px" maxSize={panelAtMost} className={panelClass}>
        {panel}
      </Panel>
    </Group>
  );
}
