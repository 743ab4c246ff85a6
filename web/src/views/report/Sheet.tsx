import { ChevronLeft, Download, Printer } from 'lucide-react';
import { useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { saveAs } from '../../parts/saveAs.ts';
import { standalone } from './standalone.ts';

/** A page made to be printed, or saved as one HTML file that needs nothing else. */
export function Sheet({
  projectId,
  title,
  back,
  tools,
  children,
}: {
  projectId: string;
  title: string;
  back: string;
  tools?: ReactNode;
  children: ReactNode;
}) {
  const page = useRef<HTMLElement>(null);
  const [isSaving, setIsSaving] = useState(false);
  const save = async () => {
    if (!page.current) return;
    setIsSaving(true);
    try {
      const html = await standalone(page.current, title);
      saveAs(new Blob([html], { type: 'text/html' }), `${title}.html`);
    } finally {
      setIsSaving(false);
    }
  };
  const print = async () => {
    // Pictures below the fold are loaded only when they are needed, and on paper they are.
    const pictures = [...(page.current?.querySelectorAll('img') ?? [])];
    await Promise.allSettled(
      pictures.map((picture) => {
        picture.loading = 'eager';
        return picture.decode();
      }),
    );
    window.print();
  };
  return (
    <div className="h-full overflow-auto bg-base-200 print:overflow-visible print:bg-white">
      <header className="line-b sticky top-0 z-10 flex h-11 items-center gap-3 bg-base-100 px-3 print:hidden">
        <Link to={`/projects/${projectId}/${back}`} className="btn btn-plain btn-sm">
          <ChevronLeft size={14} aria-hidden /> Back
        </Link>
        <b className="truncate">{title}</b>
        <span className="ml-auto flex items-center gap-2">
          {tools}
          <button type="button" className="btn btn-plain btn-sm" disabled={isSaving} onClick={() => void save()}>
            <Download size={14} aria-hidden /> Save as HTML
          </button>
          <button type="button" className="btn btn-primary btn-sm" onClick={() => void print()}>
            <Printer size={14} aria-hidden /> Print
          </button>
        </span>
      </header>
      <title>{`${title} · Legame`}</title>
      <main
        ref={page}
        className="mx-auto my-4 max-w-[940px] bg-base-100 px-8 py-6 print:m-0 print:max-w-none print:p-0"
      >
        {children}
      </main>
    </div>
  );
}
