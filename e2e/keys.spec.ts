/** A key handled by what has focus goes no further; nothing keeps the keys once it has been used. */
import { choose, dial, expect, openBench, ownLevel, test, tray } from './fixture.ts';
import { begin, makeKind, pressAt, spot, value } from './planning.ts';

test('Delete on a dial goes back to the compared value, and never deletes the thing that is chosen', async ({ page }) => {
  await openBench(page);
  await page
    .getByRole('button', { name: /^cooling basin 1/ })
    .first()
    .click();
  await expect(tray(page, 'cooling basin')).toContainText('2');
  const rests = dial(page, 'rests for');
  await rests.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Delete');
  await expect(rests).toHaveAttribute('aria-valuenow', '9');
  await expect(tray(page, 'cooling basin')).toContainText('2');
  await page.keyboard.press('Control+z');
});

test('a number that is typed on a ruler goes into its field; Enter takes it, Escape does not, and no command hears it', async ({
  page,
  request,
}) => {
  await page.goto(`/levels/${await ownLevel(request, 'Typed on')}`);
  await tray(page, 'cooling basin').click();
  const rests = dial(page, 'rests for');
  const before = (await rests.getAttribute('aria-valuenow'))!;
  await rests.focus();
  await page.keyboard.type('12.5');
  await expect(page.getByRole('textbox', { name: 'rests for' })).toHaveValue('12.5');
  await page.keyboard.press('Enter');
  await expect(rests).toHaveAttribute('aria-valuenow', '12.5');
  await expect(rests).toBeFocused();
  // A point begins none: it is the key of the next event.
  await page.keyboard.press('.');
  await expect(rests).toBeFocused();
  await page.keyboard.type('-3');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Enter');
  await expect(rests).toHaveAttribute('aria-valuenow', '12.5');
  await page.keyboard.press('Control+z');
  await expect(rests).toHaveAttribute('aria-valuenow', before);
});

test('Enter commits a field and leaves it, Escape leaves without; the next key is a command', async ({ page }) => {
  await openBench(page);
  await tray(page, 'cart').click();
  await page.getByText('look, shapes and life').click();
  const tags = page.getByLabel('tags', { exact: true }).first();
  await tags.fill('sledge');
  await page.keyboard.press('Enter');
  await expect(tags).not.toBeFocused();
  await page.keyboard.press('b');
  await expect(page.getByRole('radio', { name: 'Place', exact: true })).toBeChecked();
  await expect(page.getByText('sledgeb')).toHaveCount(0);
  await page.keyboard.press('v');
  await page.keyboard.press('Control+z');
});

test('in Play the keys are the player’s again after a speed, the volume or a tick box', async ({ page }) => {
  await page.goto('/levels/night-firing/play');
  await expect(page.getByText('from the start')).toBeVisible();
  const volume = page.getByRole('slider', { name: /volume/i });
  await volume.click();
  await expect(volume).not.toBeFocused();
  const slow = page.getByRole('radio', { name: '0.5', exact: true });
  await slow.click();
  await expect(slow).toBeChecked();
  await expect(slow).not.toBeFocused();
  await page.getByRole('button', { name: 'Restart' }).click();
  await page.keyboard.down('w');
  await expect(page.getByRole('complementary', { name: 'Live ledger' })).toContainText('tile shard 1: score +15, 0 → 15');
  await page.keyboard.up('w');
});

test('while the mouse is held only Escape acts; a way being drawn loses its last point first; undo says what it undid', async ({
  page,
}) => {
  await begin(page, 'Held yard');
  await makeKind(page, 'score');
  await page.keyboard.press('b');
  await pressAt(page, 10, 9);
  await page.keyboard.press('v');
  const at = await value(page, 'right').inputValue();
  const [from, to] = [await spot(page, 10, 9), await spot(page, 20, 9)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.keyboard.press('Delete');
  await page.keyboard.press('b');
  await expect(value(page, 'right')).not.toHaveValue(at);
  await page.keyboard.press('Escape');
  await expect(value(page, 'right')).toHaveValue(at);
  await page.mouse.up();
  await expect(value(page, 'right')).toHaveValue(at);
  await expect(page.getByRole('radio', { name: 'Select', exact: true })).toBeChecked();
  // A window that is left ends the drag; what follows the pointer afterwards does not.
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.evaluate(() => dispatchEvent(new Event('blur')));
  await page.mouse.move(from.x + 60, from.y, { steps: 2 });
  await page.mouse.up();
  await expect(value(page, 'right')).toHaveValue(at);

  await page.keyboard.press('r');
  for (const x of [5, 8, 30]) await pressAt(page, x, 5);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('radio', { name: 'Select', exact: true })).toBeChecked();
  await expect(page.getByRole('status', { name: 'Outcome' })).toContainText('final health');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('status', { name: 'Done just now' })).toContainText('Undone: draw a route');

  // What can be done with a thing: by the right button, with its key; what was deleted is brought back where that is said.
  await page.keyboard.press('v');
  await pressAt(page, 10, 9);
  await page.mouse.click(from.x, from.y, { button: 'right' });
  const menu = page.getByRole('menu', { name: 'What can be done with what is chosen' });
  await expect(menu.getByRole('menuitem', { name: 'Duplicate what is chosen Ctrl + D' })).toBeVisible();
  await menu.getByRole('menuitem', { name: 'Delete what is chosen' }).click();
  await expect(tray(page, 'collectible')).toContainText('unused');
  await page.getByRole('status', { name: 'Done just now' }).getByRole('button', { name: 'Bring it back' }).click();
  await expect(tray(page, 'collectible')).toContainText('· 1');
  await page.getByRole('slider', { name: 'score', exact: true }).click({ button: 'right' });
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(value(page, 'score')).toBeFocused();
  await page.keyboard.press('Escape');

  // The Tray is one stop; within it the arrow keys go on, and a key leads to the dials.
  await makeKind(page, 'harm');
  await page.keyboard.press('y');
  await expect(page.getByRole('radio', { name: /^hazard/ })).toBeFocused();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('radio', { name: /^collectible/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.press('g');
  await expect(page.getByRole('slider', { name: 'score', exact: true })).toBeFocused();
});

test('keys that mean a place on the keyboard work on every layout; keys of one page or field are no other’s', async ({ page }) => {
  await openBench(page);
  const press = (code: string, key: string) =>
    page.evaluate(
      ([where, letter]) => {
        document.body.dispatchEvent(new KeyboardEvent('keydown', { code: where!, key: letter!, bubbles: true, cancelable: true }));
      },
      [code, key],
    );
  const pace = page.getByLabel('Speed of the needle');
  await press('BracketRight', 'ú');
  await expect(pace).toContainText('×2');
  await press('BracketLeft', 'ü');
  await expect(pace).toContainText('×1');
  const needle = page.getByRole('slider', { name: 'Needle' });
  await press('Period', 'ł');
  await expect(needle).not.toHaveAttribute('aria-valuenow', '0');
});

test('the sides of a new level that were typed stay, and the focus too, when how it is seen is chosen', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New level' }).click();
  const form = page.getByRole('form', { name: 'New level' });
  const width = await form.getByLabel('Width, u').inputValue();
  await form.getByLabel('Height, u').fill('50');
  await choose(form.getByRole('combobox', { name: 'Seen' }), 'from the side');
  await expect(form.getByLabel('Height, u')).toHaveValue('50');
  await expect(form.getByLabel('Width, u')).not.toHaveValue(width);
  await expect(form.getByLabel('Name')).not.toBeFocused();
});
