/** What is read or written at once where files are moved as wholes. */
export const chunkInBytes = 4 * 1024 * 1024;
const wasmPageInBytes = 65_536;
/** Node's own types leave it out. */
declare const WebAssembly: {
  readonly Memory: new (size: { readonly initial: number }) => { readonly buffer: ArrayBuffer };
};

/** Kept for whoever comes next: to make one anew costs more than to copy a small file. */
const spare: Buffer[] = [];
const mostSpare = 4;

/**
 * Memory of `chunkInBytes` each that begins at a page's start, for as long as `use` runs. A read past the system's cache
 * takes no other, and Node's buffers begin anywhere; the memory of WebAssembly always begins at a page.
 */
export async function withChunks<T>(count: number, use: (chunks: readonly Buffer[]) => Promise<T>): Promise<T> {
  const chunks = Array.from({ length: count }, takeChunk);
  try {
    return await use(chunks);
  } finally {
    chunks.forEach(giveBack);
  }
}

const takeChunk = (): Buffer =>
  spare.pop() ?? Buffer.from(new WebAssembly.Memory({ initial: chunkInBytes / wasmPageInBytes }).buffer);

function giveBack(chunk: Buffer): void {
  if (spare.length < mostSpare) spare.push(chunk);
}
