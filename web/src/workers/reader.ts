import { wrap, type Remote } from 'comlink';
import { DocumentReader } from './documentReader.ts';

type Reader = Remote<DocumentReader>;
let reader: Reader | null = null;

/** The document reader in its worker, so that reading fifty megabytes leaves the page as quick as it was. */
export function documentReader(): Reader {
  reader ??= startReader();
  return reader;
}

function startReader(): Reader {
  // Only where there are no workers at all, which is in tests, does it run in the page.
  if (typeof Worker === 'undefined') return inPage(new DocumentReader());
  return wrap<DocumentReader>(new Worker(new URL('./reading.worker.ts', import.meta.url), { type: 'module' }));
}

const inPage = (own: DocumentReader): Reader =>
  ({
    open: (...args: Parameters<DocumentReader['open']>) => own.open(...args),
    preview: (...args: Parameters<DocumentReader['preview']>) => Promise.resolve(own.preview(...args)),
    content: (token: string) => Promise.resolve(own.content(token)),
    close: (token: string) => Promise.resolve(own.close(token)),
  }) as unknown as Reader;
