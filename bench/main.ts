import { askedFigures } from './asked.ts';
import { savingFigures } from './saving.ts';
import { printGrowth } from './growth.ts';
import { crowdFigures, judgingFigures } from './crowds.ts';
import { personaFigures } from './personas.ts';
import { steppingFigures } from './stepping.ts';
import { tuningFigures } from './tuning.ts';
import { turningFigures } from './turning.ts';
import type { Figure } from './figures.ts';

/**
 * `npm run bench [-- --json] [-- --core] [-- --saving [SERVER]] [-- --growth] [-- --crowds]`: prints one table; `--core` leaves the browser out,
 * `--saving` measures the server alone, this one or that of another build, `--growth` what a step costs as levels grow, `--tuning` tuning on levels with known answers; `--crowds` measures crowds and studies of values alone, ten thousand sessions
 * with them.
 */
const saving = process.argv.indexOf('--saving');
if (process.argv.includes('--growth')) await printGrowth();
else if (process.argv.includes('--tuning')) print(await tuningFigures());
else {
  const crowds = process.argv.includes('--crowds');
  const figures: Figure[] = crowds
    ? [...(await crowdFigures(true)), ...(await judgingFigures()), ...(await askedFigures())]
    : saving >= 0
      ? await savingFigures(process.argv[saving + 1])
      : [
          ...(await steppingFigures()),
          ...personaFigures(),
          ...(await crowdFigures(false)),
          ...(await judgingFigures()),
          ...(await askedFigures()),
        ];
  if (saving < 0 && !crowds && !process.argv.includes('--core')) figures.push(...(await turningFigures()));
  print(figures);
}

function print(figures: readonly Figure[]): void {
  if (process.argv.includes('--json')) {
    console.log(JSON.stringify(figures));
    return;
  }
  const width = Math.max(...figures.map(({ name }) => name.length));
  for (const { name, value, unit } of figures) {
    const digits = value >= 100 ? 0 : value >= 10 ? 1 : 2;
    console.log(`${name.padEnd(width)}  ${value.toFixed(digits).padStart(8)} ${unit}`);
  }
}
