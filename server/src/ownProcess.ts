import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/**
 * What is run as a process of Legame's own: bundled, it lies beside whoever starts it; from source it is run as that is.
 * Tests bundle first, for a process that starts from source takes seconds.
 */
export function ownProcess(name: string, from: string): string[] {
  const here = dirname(fileURLToPath(from));
  if (from.endsWith('.js')) return [join(here, `${name}.js`)];
  const { LEGAME_BUNDLED } = process.env;
  return LEGAME_BUNDLED ? [join(LEGAME_BUNDLED, `${name}.js`)] : ['--import', 'tsx', join(here, `${name}.ts`)];
}
