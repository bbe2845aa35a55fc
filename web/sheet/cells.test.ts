import { kindSheet } from '@dial/core/formats';
import { addKind, addVariant, newLevel, type Level } from '@dial/core/level';
import { operated } from '../state/document/operations.ts';
import { movedBy, type Block } from './block.ts';
import { arranged, copied, fillDown, operateOn, pasteInto } from './cells.ts';

/** A pad, another pad, and a kind based on the first. */
function level(): Level {
  const made = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.05, framesPerSecond: 60 });
  const pad = addKind(made, 'mend');
  addKind(made, 'mend');
  addVariant(made, pad);
  return structuredClone(made);
}
const ALL = { search: '', columns: '', sortBy: null, descending: false };
const sheet = arranged(kindSheet(level()), ({ name }) => name, { ...ALL, columns: 'rests' });
const block = (top: number, bottom: number): Block => ({ from: { row: top, column: 0 }, to: { row: bottom, column: 0 } });
const written = (gathered: ReturnType<typeof fillDown>) => gathered.writes.map(({ path, value }) => [path, value]);

test('multiplying a column leaves what follows another kind to follow it', () => {
  expect(written(operateOn(sheet, block(0, 2), 'multiply by', 1.1))).toEqual([
    ['/kinds/healing-pad/rules/act/becomes/seconds', 6.6],
    ['/kinds/healing-pad-2/rules/act/becomes/seconds', 6.6],
  ]);
  expect(written(operateOn(sheet, block(2, 2), 'add', 1))).toHaveLength(1);
  expect(operateOn(sheet, block(0, 0), 'set to', -1)).toMatchObject({ writes: [], refused: [expect.stringContaining('at least 0')] });
});

test('a block is pasted, filled down and copied as in a spreadsheet', () => {
  const pasted = pasteInto(sheet, block(0, 0), '7\t8\n90f\r\n\n=1+1\n', level().scale);
  expect(written(pasted)).toEqual([
    ['/kinds/healing-pad/rules/act/becomes/seconds', 7],
    ['/kinds/healing-pad-2/rules/act/becomes/seconds', 1.5],
  ]);
  expect(pasted.refused).toEqual([expect.stringContaining('“8”'), expect.stringContaining('outside the table')]);
  expect(written(pasteInto(sheet, block(0, 1), '7', level().scale)).map(([, value]) => value)).toEqual([7, 7]);
  expect(fillDown(sheet, block(0, 2)).writes).toEqual([]);
  expect(copied(sheet, block(0, 1))).toBe('6\n6');
});

test('rows and columns are found and sorted; what is empty comes last', () => {
  const whole = arranged(kindSheet(level()), ({ name }) => name, { ...ALL, search: 'pad variant' });
  expect([whole.rows.length, whole.columns.length > 4, sheet.columns.map(({ name }) => name)]).toEqual([1, true, ['rests for (s)']]);
  const changed = level();
  changed.variants['healing-pad-variant']!.changes = { '/rules/act/becomes/seconds': 2 };
  const sorted = (descending: boolean) =>
    arranged(kindSheet(changed), ({ name }) => name, { ...ALL, sortBy: 'rests for (s)', descending }).rows.map(({ id }) => id);
  expect([sorted(false)[0], sorted(true)[2]]).toEqual(['healing-pad-variant', 'healing-pad-variant']);
});

test('arrows stay within the table', () => {
  const at = { row: 0, column: 0 };
  expect([movedBy('ArrowUp', false, at, 3, 2), movedBy('PageDown', false, at, 3, 2)]).toEqual([at, { row: 2, column: 0 }]);
  expect([movedBy('ArrowRight', true, at, 3, 5), movedBy('x', false, at, 3, 2)]).toEqual([{ row: 0, column: 4 }, null]);
});

test.each([
  ['multiply by', 3, 1.5, true, 5],
  ['multiply by', 0.1, 3, false, 0.3],
  ['add', 0.1, 0.2, false, 0.3],
  ['add', 3, 1.5, true, 4.5],
  ['set to', 3, 7, true, 7],
] as const)('to %s: %d by %d, of whole numbers only: %s, is %d', (operation, value, by, integer, result) => {
  // A whole number is rounded only when it is multiplied; a part that was typed is refused later, with the reason.
  expect(operated(operation, value, by, { integer })).toBe(result);
});
