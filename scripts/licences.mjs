// `npm run licences`: writes docs/licences.md, the packages that ship with Dial and their licences; with `--check` it only says whether that is true.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './prepare.mjs';

const FILE = join(root, 'docs/licences.md');
const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
const shipped = new Map();
for (const [path, { version, license, dev, optional, link }] of Object.entries(packages)) {
  const name = path.split('node_modules/').at(-1);
  if (!path.includes('node_modules/') || dev === true || optional === true || link === true) continue;
  shipped.set(`${name} ${version}`, license ?? 'not said');
}
const rows = [...shipped].sort(([a], [b]) => (a < b ? -1 : 1)).map(([name, licence]) => `| ${name} | ${licence} |`);
const text = `# What ships with Dial\n\nPackages that the server, the command and the pages use. \`npm run licences\` writes this list.\n\n| package | licence |\n| --- | --- |\n${rows.join('\n')}\n`;
if (!process.argv.includes('--check')) writeFileSync(FILE, text);
else if (readFileSync(FILE, 'utf8') !== text) {
  console.error('docs/licences.md is not what package-lock.json says: npm run licences');
  process.exit(1);
}
