// `npm run nightly`: the properties of sessions on 1,000 random levels and runs each, with a seed that is another each time.
// A failure prints the seed; DIAL_SEED=N repeats it, DIAL_RUNS=N tries more or fewer.
import { spawnSync } from 'node:child_process';
import { ensureInstalled, root, tool } from './prepare.mjs';

ensureInstalled();
const seed = process.env.DIAL_SEED ?? String(Math.floor(Math.random() * 2 ** 31));
console.log(`seed ${seed}`);
const env = { ...process.env, DIAL_SEED: seed, DIAL_RUNS: process.env.DIAL_RUNS ?? '1000' };
const tests = [
  'core/session/properties',
  'core/session/reference',
  'core/session/seams',
  'core/session/crowded',
  'core/players/evidence.properties',
  'core/findings/findings.properties',
];
const { status } = spawnSync(tool('jest'), ['--testTimeout', '3600000', ...tests], { cwd: root, stdio: 'inherit', env });
if (status !== 0) console.log(`repeat it with DIAL_SEED=${seed}`);
process.exit(status ?? 2);
