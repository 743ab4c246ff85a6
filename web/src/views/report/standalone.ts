/** A part of the page as one HTML file: the styles that shape it and its pictures inside it, no script, no link. */
export async function standalone(part: HTMLElement, title: string): Promise<string> {
  const copy = part.cloneNode(true) as HTMLElement;
  const [from, to] = [part.querySelectorAll('img'), copy.querySelectorAll('img')];
  await Promise.all(
    [...from].map(async (image, i) => {
      const data = await asDataUrl(image.src).catch(() => null);
      if (data) to[i]!.src = data;
      else to[i]!.remove();
    }),
  );
  for (const link of copy.querySelectorAll('a')) link.replaceWith(...link.childNodes);
  const document = part.ownerDocument;
  const styles = [...document.styleSheets].flatMap((sheet) => {
    try {
      return [...sheet.cssRules].map((rule) => rule.cssText);
    } catch {
      return [];
    }
  });
  // Fonts are files of the application; away from it the reader's own serve.
  const css = styles.filter((rule) => !rule.startsWith('@font-face')).join('\n');
  const head = `<meta charset="utf-8"><title>${escaped(title)}</title><style>${css.replaceAll('</', '<\\/')}</style>`;
  return `<!doctype html><html lang="en" data-theme="paper"><head>${head}</head><body style="height:auto;overflow:auto;background:#fffdf8">${copy.outerHTML}</body></html>\n`;
}

async function asDataUrl(url: string): Promise<string> {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`no picture at ${url}`);
  const bytes = new Uint8Array(await answer.arrayBuffer());
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return `data:${answer.headers.get('Content-Type') ?? 'image/jpeg'};base64,${btoa(text)}`;
}

const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
