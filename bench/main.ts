import { savingFigures } from './saving.ts';
import { steppingFigures } from './stepping.ts';
import { turningFigures } from './turning.ts';
import type { Figure } from './figures.ts';

/**
 * `npm run bench [-- --json] [-- --core] [-- --saving [SERVER]]`: prints one table; `--core` leaves the browser out, `--saving`
 * measures the server alone, this one or that of another build.
 */
const saving = process.argv.indexOf('--saving');
const figures: Figure[] = saving >= 0 ? await savingFigures(process.argv[saving + 1]) : await steppingFigures();
if (saving < 0 && !process.argv.includes('--core')) figures.push(...(await turningFigures()));

if (process.argv.includes('--json')) console.log(JSON.stringify(figures));
else {
  const width = Math.max(...figures.map(({ name }) => name.length));
  for (const { name, value, unit } of figures) {
    const digits = value >= 100 ? 0 : value >= 10 ? 1 : 2;
    console.log(`${name.padEnd(width)}  ${value.toFixed(digits).padStart(8)} ${unit}`);
  }
}
