// `npm test`: installs what is missing and runs everything; ends with "N passed, N failed".
import { execFile, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { setPriority, tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuilt, ensureChromium, ensureInstalled, root, tool } from './prepare.mjs';

ensureInstalled();
ensureChromium();
ensureBuilt();

const reports = mkdtempSync(join(tmpdir(), 'dial-reports-'));
let passed = 0;
let failed = 0;

function run(name, args, { env = {}, priority = 0 } = {}) {
  console.log(`\n— ${name} ${args.join(' ')}`);
  const running = spawn(tool(name), args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  if (priority > 0) setPriority(running.pid, priority);
  return new Promise((resolve) => running.on('close', (code) => resolve(code === 0)));
}

/** Checks that pass or fail as a whole, one after the other, where nothing else wants the processor; each says what it found when it is done. */
async function checkAll(checks) {
  for (const [name, ...args] of checks) {
    const [ok, said] = await new Promise((resolve) => {
      const options = { cwd: root, maxBuffer: 64 * 1024 * 1024 };
      const running = execFile(name === 'node' ? process.execPath : tool(name), args, options, (error, out, err) =>
        resolve([error === null, out + err]),
      );
      setPriority(running.pid, 19);
    });
    console.log(`\n— ${name} ${args.join(' ')}${ok ? '' : ': failed'}\n${said.trim()}`);
    if (ok) passed += 1;
    else failed += 1;
  }
}

/** Adds up a report; a runner that failed without one, or ran nothing, is a failure itself. */
function count(ok, file, read) {
  let good = 0;
  let bad = 0;
  try {
    [good, bad] = read(JSON.parse(readFileSync(file, 'utf8')));
  } catch (error) {
    console.error(`no report: ${error.message}`);
  }
  passed += good;
  failed += ok && good > 0 ? bad : Math.max(1, bad);
}

// Beside everything else: tests wait now and then, and leave the processor to them.
const checked = checkAll([
  ['eslint', '--max-warnings', '0', '.'],
  ['tsc', '-b'],
  ['tsc', '-p', 'e2e/tsconfig.json'],
  ['prettier', '--check', '--log-level', 'warn', '.'],
  ['depcruise', '--config', '.dependency-cruiser.cjs', 'core', 'server', 'web', 'cli', 'bench'],
  ['knip', '--no-progress'],
  ['node', 'scripts/size.mjs'],
  ['node', 'scripts/licences.mjs', '--check'],
]);

/** Unit tests, counted from a report of their own. */
async function runUnits(name, args, options) {
  const report = join(reports, name);
  const ok = await run('jest', ['--json', `--outputFile=${report}`, ...args], options);
  count(ok, report, (read) => [read.numPassedTests, read.numFailedTests + read.numRuntimeErrorTestSuites]);
}

// Servers started and killed over and over: done beside the browser tests, which leave half of the processor.
const SLOW = 'server/doors.test.ts';
await runUnits('units.json', ['--testPathIgnorePatterns', '/node_modules/', '/dist/', SLOW]);
const slow = runUnits('slow.json', ['--runInBand', '--runTestsByPath', SLOW], { priority: 10 });

const browser = join(reports, 'browser.json');
count(
  await run('playwright', ['test', '--config', 'e2e/playwright.config.ts', '--reporter', 'list,json'], {
    env: { PLAYWRIGHT_JSON_OUTPUT_NAME: browser },
  }),
  browser,
  (report) => [report.stats.expected, report.stats.unexpected + report.stats.flaky + report.stats.skipped],
);

await slow;
await checked;
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
