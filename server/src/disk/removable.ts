import { readFile, realpath } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { simulatedDriveOf } from './conditions.ts';

/** Where systems mount what was plugged in while they ran. */
const whereDrivesAppear = /^\/(run\/)?media\/|^\/Volumes\//;

/** Whether a folder lies on a drive that can be taken out: a card, a stick, or one that was plugged in by itself. */
export async function isRemovable(path: string): Promise<boolean> {
  if (whereDrivesAppear.test(path)) return true;
  const device = await deviceOf(path);
  if (device === null) return false;
  const found = await realpath(join('/sys/class/block', basename(device))).catch(() => null);
  if (found === null) return false;
  // Of a partition, its drive says it.
  for (const folder of [found, dirname(found)]) {
    const said = await readFile(join(folder, 'removable'), 'utf8').catch(() => null);
    if (said !== null) return said.trim() === '1';
  }
  return false;
}

async function deviceOf(path: string): Promise<string | null> {
  const { device } = await mountOf(path);
  return device.startsWith('/dev/') ? device : null;
}

/** Where the drive that holds `path` is mounted: what a person calls the drive. */
export const driveOf = async (path: string): Promise<string> =>
  simulatedDriveOf(path) ?? ((await mountOf(path)).point || '/');

/** The innermost mount that holds `path`. */
async function mountOf(path: string): Promise<{ readonly point: string; readonly device: string }> {
  const table = await readFile('/proc/self/mounts', 'utf8').catch(() => '');
  let innermost = { point: '', device: '' };
  for (const line of table.split('\n')) {
    const [device = '', escaped = ''] = line.split(' ');
    const point = escaped.replace(/\\([0-7]{3})/g, (_, octal: string) => String.fromCharCode(parseInt(octal, 8)));
    const holds = point !== '' && (path === point || path.startsWith(point.endsWith('/') ? point : `${point}/`));
    if (holds && point.length >= innermost.point.length) innermost = { point, device };
  }
  return innermost;
}
