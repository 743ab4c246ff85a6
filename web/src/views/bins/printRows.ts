/** Prints a table in a frame of its own, so that the page stays as it is. */
export function printRows(title: string, [heads = [], ...rows]: readonly (readonly string[])[]): void {
  const frame = document.createElement('iframe');
  frame.className = 'sr-only';
  frame.title = 'what is printed';
  document.body.append(frame);
  const page = frame.contentDocument!;
  const style = page.createElement('style');
  style.textContent = `@page { size: landscape; margin: 12mm } body { font: 9pt sans-serif }
    table { border-collapse: collapse; width: 100% } th, td { border-bottom: 1px solid #bbb; padding: 1mm 2mm; text-align: left }
    thead { display: table-header-group } tr { break-inside: avoid }`;
  const heading = page.createElement('h1');
  heading.textContent = title;
  const table = page.createElement('table');
  const line = (cells: readonly string[], of: 'th' | 'td') => {
    const row = page.createElement('tr');
    for (const text of cells) row.appendChild(page.createElement(of)).textContent = text;
    return row;
  };
  table.createTHead().append(line(heads, 'th'));
  table.createTBody().append(...rows.map((cells) => line(cells, 'td')));
  page.head.append(style);
  page.title = title;
  page.body.append(heading, table);
  frame.contentWindow!.addEventListener('afterprint', () => frame.remove());
  frame.contentWindow!.print();
}
