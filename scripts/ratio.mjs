// `npm run ratio`: lines of tests against all other lines of TypeScript, blank lines left out.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard', '*.ts', '*.tsx'], { encoding: 'utf8' })
  .split('\n')
  .filter(Boolean);
const isTest = (file) => /\.(test|spec)\.tsx?$/.test(file) || /^e2e\//.test(file) || /(^|\/)(testing|fixtures?)\//.test(file);
let tests = 0;
let code = 0;
for (const file of files) {
  const lines = readFileSync(file, 'utf8')
    .split('\n')
    .filter((line) => line.trim() !== '').length;
  if (isTest(file)) tests += lines;
  else code += lines;
}
console.log(`tests ${tests} lines, code ${code} lines: ${((100 * tests) / code).toFixed(1)} % (wanted: 25 to 33)`);
