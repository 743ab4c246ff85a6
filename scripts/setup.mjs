// Installs what is missing: Debian's packages and the npm packages. Plain JavaScript without any dependency, because
// nothing is there yet when it runs on a fresh machine.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

const onPath = (program) =>
  (process.env.PATH ?? '').split(':').some((folder) => folder && existsSync(join(folder, program)));
const postgresThere = () => {
  const base = '/usr/lib/postgresql';
  return existsSync(base) && readdirSync(base).some((v) => existsSync(join(base, v, 'bin', 'initdb')));
};

const wanted = [
  { name: 'postgresql', there: postgresThere, tests: false },
  { name: 'ffmpeg', there: () => onPath('ffmpeg') && onPath('ffprobe'), tests: false },
  {
    name: 'fonts-dejavu-core',
    there: () => existsSync('/usr/share/fonts/truetype/dejavu/DejaVuSansMono.ttf'),
    tests: false,
  },
  { name: 'util-linux', there: () => onPath('prlimit') && onPath('setpriv'), tests: false },
  { name: 'chromium', there: () => onPath('chromium'), tests: true },
];

/** Makes sure of Node, Debian's packages and npm's, or says the one command that does and ends. */
export function setup({ tests = false } = {}) {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    fail(`Legame needs Node.js 20.19 or newer; this is ${process.versions.node}.`);
  debianPackages(tests);
  npmPackages();
}

function debianPackages(tests) {
  const missing = wanted.filter((p) => (tests || !p.tests) && !p.there()).map((p) => p.name);
  if (missing.length === 0) return;
  const install = `apt-get update && apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (process.getuid?.() !== 0 || !onPath('apt-get')) {
    fail(
      `These Debian packages are missing: ${missing.join(', ')}. Install them with\n\n  sudo sh -c '${install}'\n\nand start again.`,
    );
  }
  console.log(`Installing Debian packages: ${missing.join(', ')}…`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const quiet = { stdio: ['ignore', 'ignore', 'inherit'], env };
  const ran = [
    ['update', '-q'],
    ['install', '-y', '-q', '--no-install-recommends', ...missing],
  ].every((args) => spawnSync('apt-get', args, quiet).status === 0);
  if (!ran || missing.some((name) => !wanted.find((p) => p.name === name).there()))
    fail(`Debian's packages could not be installed. Try by hand:\n\n  ${install}`);
}

function npmPackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const mark = join(root, 'node_modules', '.legame-installed');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  console.log('Installing npm packages…');
  try {
    execFileSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: root, stdio: 'inherit' });
  } catch {
    fail('The npm packages could not be installed. Check that the npm registry can be reached, then start again.');
  }
  writeFileSync(mark, lock);
}

function fail(message) {
  console.error(message);
  process.exit(1);
}

if (process.argv[1] && import.meta.url === pathToFileURL(process.argv[1]).href)
  setup({ tests: process.argv.includes('--tests') });
