// `npm run size`: the script that each page waits for, compressed, against what it may be. Charts are fetched when one is shown.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { ensureBuilt, ensureInstalled, root } from './prepare.mjs';

/** Kilobytes, compressed. The first page's is promised; the others' keep them from growing unseen. Bench and Play draw the Plan. */
const MOST = {
  'index.html': 300,
  'app/SheetPage.tsx': 310,
  'app/RunsPage.tsx': 300,
  'app/ReportPage.tsx': 300,
  'app/KeysPage.tsx': 300,
  'app/BenchPage.tsx': 480,
  'play/PlayPage.tsx': 450,
};

ensureInstalled();
ensureBuilt();
const dist = join(root, 'web/dist');
const manifest = JSON.parse(readFileSync(join(dist, '.vite/manifest.json'), 'utf8'));
function closure(name, found = new Set()) {
  if (found.has(name)) return found;
  found.add(name);
  for (const one of manifest[name].imports ?? []) closure(one, found);
  return found;
}

const size = (name) => gzipSync(readFileSync(join(dist, manifest[name].file))).length / 1000;
let over = 0;
for (const [page, most] of Object.entries(MOST)) {
  const kilobytes = [...closure(page, closure('index.html'))].reduce((sum, name) => sum + size(name), 0);
  if (kilobytes > most) over += 1;
  console.log(
    `${page.padEnd(20)} ${kilobytes.toFixed(0).padStart(4)} kB of at most ${String(most)}${kilobytes > most ? ': too much' : ''}`,
  );
}
process.exit(over === 0 ? 0 : 1);
