// `npm run -s dial -- …`: the command line, built first where it is not.
import { spawnSync } from 'node:child_process';
import { ensureBuilt, ensureInstalled, root } from './prepare.mjs';
import { join } from 'node:path';

ensureInstalled();
ensureBuilt();
const { status } = spawnSync(process.execPath, [join(root, 'cli/dist/main.js'), ...process.argv.slice(2)], { stdio: 'inherit' });
process.exit(status ?? 2);
