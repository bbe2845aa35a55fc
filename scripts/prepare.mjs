// What must stand before anything runs: packages, a build of the present sources, and Chromium. Node built-ins only,
// since it runs on a fresh clone. All of its own words go to standard error.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url));
const CHROMIUM = '/usr/bin/chromium-headless-shell';
/** A tool of the packages. Of two compilers here, the linter's own goes by `tsc` too: it cannot read with the newer one yet. */
export const tool = (name) => join(root, name === 'tsc' ? 'node_modules/typescript-7/bin' : 'node_modules/.bin', name);
const say = (words) => process.stderr.write(words + '\n');

/** Runs a command, its output on standard error; throws when it fails. */
function must(command, args) {
  const { status } = spawnSync(command, args, { cwd: root, stdio: ['ignore', 2, 2] });
  if (status !== 0) throw new Error(`${command} ${args.join(' ')} failed`);
}

const hashOf = (texts) => texts.reduce((hash, text) => hash.update(text), createHash('sha256')).digest('hex');

function readStamp(file) {
  return existsSync(file) ? readFileSync(file, 'utf8') : '';
}

/** Installs the packages of the lock file when they are missing or it has changed. */
export function ensureInstalled() {
  const stamp = join(root, 'node_modules', '.dial-stamp');
  const wanted = hashOf([readFileSync(join(root, 'package-lock.json'))]);
  if (readStamp(stamp) === wanted) return;
  say('Installing packages …');
  must('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(stamp, wanted);
}

const SOURCES = ['core', 'server', 'cli', 'web', 'bench'];
const SKIPPED = new Set(['node_modules', 'dist']);

function* sources(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    if (SKIPPED.has(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* sources(path);
    else if (!/\.(test\.tsx?|tsbuildinfo)$/.test(entry.name)) yield path;
  }
}

/** Builds when a source has changed since the last build. */
export function ensureBuilt() {
  const stamp = join(root, '.build-stamp');
  const files = [
    ...SOURCES.flatMap((folder) => [...sources(join(root, folder))]),
    join(root, 'package-lock.json'),
    join(root, 'tsconfig.base.json'),
  ];
  const wanted = hashOf(files.flatMap((file) => [file.slice(root.length), readFileSync(file)]));
  if (readStamp(stamp) === wanted && existsSync(join(root, 'web', 'dist', 'index.html'))) return;
  say('Building …');
  must(tool('tsc'), ['-b', 'core', 'server', 'cli', 'bench']);
  must(process.execPath, ['server/dist/makeTemplate.js']);
  must(tool('vite'), ['build', 'web', '--logLevel', 'warn']);
  writeFileSync(stamp, wanted);
}

/** Installs Chromium without a window from Debian's packages, where it is missing and that is possible. */
export function ensureChromium() {
  if (existsSync(CHROMIUM)) return;
  say('Installing Chromium …');
  try {
    const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
    const run = (...args) => execFileSync([...sudo, ...args][0], [...sudo, ...args].slice(1), { stdio: ['ignore', 2, 2] });
    run('apt-get', 'update');
    run('apt-get', 'install', '-y', '--no-install-recommends', 'chromium-headless-shell');
  } catch {
    throw new Error(`The browser tests want Chromium at ${CHROMIUM}; it could not be installed here. Install it and try again.`);
  }
}
