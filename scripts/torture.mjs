// `npm run torture`: the server's tests of kills and of mutated requests, long: 1,000 kills, then a million requests. The
// seed is printed and another each time; DIAL_SEED=N repeats one.
import { spawnSync } from 'node:child_process';
import { ensureBuilt, ensureInstalled, root, tool } from './prepare.mjs';

ensureInstalled();
ensureBuilt();
const seed = process.env.DIAL_SEED ?? String(Math.floor(Math.random() * 1e9));
console.log(`seed ${seed}`);
const env = {
  ...process.env,
  DIAL_SEED: seed,
  DIAL_KILLS: process.env.DIAL_KILLS ?? '1000',
  DIAL_MUTATION_BATCHES: process.env.DIAL_MUTATION_BATCHES ?? '200',
  DIAL_TEST_MINUTES: '180',
};
const tests = ['server/server.test.ts', 'server/hostile.test.ts', '-t', 'killed|mutated'];
const { status } = spawnSync(tool('jest'), tests, { cwd: root, stdio: 'inherit', env });
process.exit(status ?? 2);
