// `npm run bench`: the benchmark, on a fresh build.
import { spawnSync } from 'node:child_process';
import { ensureBuilt, ensureChromium, ensureInstalled, root } from './prepare.mjs';
import { join } from 'node:path';

ensureInstalled();
ensureChromium();
ensureBuilt();
const { status } = spawnSync(process.execPath, ['--expose-gc', join(root, 'bench/dist/main.js'), ...process.argv.slice(2)], {
  stdio: 'inherit',
});
process.exit(status ?? 2);
