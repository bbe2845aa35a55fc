import {
  choose,
  dial,
  digestOf,
  expect,
  expectNoSeriousProblem,
  openBench,
  outcome,
  ownLevel,
  saved,
  test,
  tray,
  type,
} from './fixture.ts';

test('the first page shows the demo and leads to its Bench, with a run already drawn', async ({ page }) => {
  await page.goto('/');
  const level = page.getByRole('listitem', { name: 'Night Firing', exact: true });
  await expect(level.getByRole('img', { name: 'Plan of Night Firing' })).toBeVisible();
  await expect(level).toContainText('last run: health 78, score 180');
  await expectNoSeriousProblem(page);
  await level.getByRole('link', { name: 'Open Night Firing', exact: true }).click();
  await expect(outcome(page)).toHaveText(/final health 78 was 62\.2/);
  await expect(page.getByRole('button', { name: 'cooling basin 1' })).toBeVisible();
  for (const theme of ['Dark', 'Light']) {
    await page.getByRole('button', { name: theme }).click();
    await expectNoSeriousProblem(page);
  }
});

test('Tray, Plan and Strip show the same selection', async ({ page }) => {
  await openBench(page);
  const second = page.getByRole('region', { name: 'placements' }).getByRole('button', { name: 'cooling basin 2' });
  await tray(page, 'cooling basin').click();
  await expect(second).toHaveAttribute('aria-pressed', 'false');
  await expect(page.getByRole('complementary', { name: 'Dials' })).toContainText(
    'In this run used 4 times, refused twice. Healed 63.8, wasted 8.2.',
  );

  await page.getByRole('region', { name: 'Strip' }).getByRole('button', { name: 'cooling basin 2' }).click();
  await expect(second).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('complementary', { name: 'Dials' })).toContainText('cooling basin 2 was used twice, refused once.');

  // On the Plan: the vent is at 12.4, 9.2 of 40 × 18 units, in room of 18 pixels.
  const plan = await page.getByRole('img', { name: /Plan of Night Firing/ }).boundingBox();
  const unit = Math.min((plan!.width - 36) / 40, (plan!.height - 36) / 18);
  const left = (plan!.width - 40 * unit) / 2;
  await page
    .getByRole('img', { name: /Plan of Night Firing/ })
    .click({ position: { x: left + 11 * unit, y: plan!.height / 2 - (8 - 9) * unit } });
  await expect(tray(page, 'ember vent')).toBeChecked();
  await expect(page.getByRole('region', { name: 'Strip' }).getByRole('button', { name: 'ember vent' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await expect(page.getByRole('heading', { name: /ember vent/ })).toBeVisible();
});

test('a dial turned by mouse, keys or typing simulates the run again at once', async ({ page }) => {
  await openBench(page);
  await tray(page, 'ember vent').click();
  const tape = dial(page, 'health');
  const box = (await tape.boundingBox())!;
  await page.mouse.move(box.x + 200, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 160, box.y + 12, { steps: 8 });
  // Still held: pulled 40 of 302 pixels to the left, 8 half steps up; nothing is an edit yet, but the run is.
  await expect(tape).toHaveAttribute('aria-valuenow', '16');
  await expect(outcome(page)).not.toHaveText(/final health 78 /);
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();

  await tape.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(tape).toHaveAttribute('aria-valuenow', '15.5');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(tape).toHaveAttribute('aria-valuenow', '15.45');
  await page.keyboard.press('PageDown');
  await expect(tape).toHaveAttribute('aria-valuenow', '10.5');
  await type(page, 'health', '12');
  await expect(outcome(page)).toHaveText(/final health 78 was 62\.2/);

  await type(page, 'health', 'hot');
  await expect(page.getByRole('alert')).toHaveText('“hot” was refused: not a number. It stays at 12.');
  await expect(tape).toHaveAttribute('aria-valuenow', '12');
  await type(page, 'width', '160px');
  await expect(dial(page, 'width')).toHaveAttribute('aria-valuenow', '5');
  await dial(page, 'width').focus();
  await page.keyboard.press('Delete');
  await expect(dial(page, 'width')).toHaveAttribute('aria-valuenow', '5.2');
});

test('undo and redo go through the turned dials', async ({ page }) => {
  await openBench(page);
  await tray(page, 'tile shard').click();
  await type(page, 'score', '20');
  await expect(outcome(page)).toHaveText(/score 240 was 180/);
  await type(page, 'score', '25');
  await expect(outcome(page)).toHaveText(/score 300/);
  await page.keyboard.press('Control+z');
  await expect(outcome(page)).toHaveText(/score 240/);
  await page.keyboard.press('Control+z');
  await expect(outcome(page)).toHaveText(/score 180/);
  await page.keyboard.press('Control+Shift+z');
  await expect(dial(page, 'score')).toHaveAttribute('aria-valuenow', '20');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(saved(page)).toHaveText('saved');
});

test.describe('with the server gone for a while', () => {
  test.use({ allowed: [/Failed to load resource/] });

  test('a turned value outlives a reload, a restart and a kill, and is sent when the server is back', async ({ page, server }) => {
    await openBench(page);
    await tray(page, 'cooling basin').click();
    await type(page, 'rests for', '5.5');
    await expect(saved(page)).toHaveText('saved');
    for (const signal of ['SIGTERM', 'SIGKILL'] as const) {
      await server.end(signal);
      await server.start();
      await page.reload();
      await tray(page, 'cooling basin').click();
      await expect(dial(page, 'rests for')).toHaveAttribute('aria-valuenow', '5.5');
    }
    await server.end('SIGKILL');
    await type(page, 'rests for', '6.5');
    await expect(saved(page)).toHaveText('not saved');
    await expect(page.getByRole('alert')).toContainText('cannot be reached');
    await server.start();
    await expect(saved(page)).toHaveText('saved', { timeout: 15_000 });
    await page.reload();
    await tray(page, 'cooling basin').click();
    await expect(dial(page, 'rests for')).toHaveAttribute('aria-valuenow', '6.5');
  });
});

// A refused request is written to the console by the browser itself.
test.describe('refused by the server', () => {
  test.use({ allowed: [/status of 4\d\d/] });

  test('two windows on one level: saved edits show at once; made apart at the same place, one chooses', async ({
    page,
    browser,
    server,
    request,
  }) => {
    const id = await ownLevel(request, 'Seen twice');
    const away = await browser.newContext({ baseURL: server.url });
    const other = await away.newPage();
    for (const one of [page, other]) {
      await one.goto(`/levels/${id}`);
      await expect(one.getByText(/simulated in/)).toBeVisible();
    }
    await tray(page, 'cart').click();
    await tray(other, 'cart').click();
    await type(page, 'width', '2');
    await expect(dial(other, 'width')).toHaveAttribute('aria-valuenow', '2');
    await type(other, 'height', '1');
    await expect(dial(page, 'height')).toHaveAttribute('aria-valuenow', '1');

    const apart = async (here: string, there: string): Promise<void> => {
      await away.setOffline(true);
      await type(other, 'width', there);
      await expect(saved(other)).toHaveText('not saved');
      await type(page, 'width', here);
      await expect(saved(page)).toHaveText('saved');
      await away.setOffline(false);
    };
    await apart('3', '4');
    const clash = other.getByRole('alert').filter({ hasText: 'changed elsewhere' });
    const question = other.getByRole('alertdialog', { name: 'Which stands?' });
    await clash.getByRole('button', { name: 'Choose which stands' }).click();
    await expect(question.getByRole('list', { name: 'Here → there' })).toHaveText('cart: width 4 → 3 u');
    // It can be left, and is asked again.
    await other.keyboard.press('Escape');
    await clash.getByRole('button', { name: 'Choose which stands' }).click();
    await question.getByRole('button', { name: 'Take theirs' }).click();
    await expect(dial(other, 'width')).toHaveAttribute('aria-valuenow', '3');
    await apart('1.6', '5');
    await clash.getByRole('button', { name: 'Choose which stands' }).click();
    await question.getByRole('button', { name: 'Keep mine' }).click();
    await expect(dial(page, 'width')).toHaveAttribute('aria-valuenow', '5');
    await away.close();
    // What another window has changed since is not undone over its head.
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('alert')).toContainText('has been changed since');
  });

  test('undo outlives a reload, and an edit made while the server cannot be reached outlives its page', async ({
    page,
    browser,
    server,
  }) => {
    const context = await browser.newContext({ baseURL: server.url });
    const own = await context.newPage();
    await openBench(own);
    await tray(own, 'salve tin').click();
    await type(own, 'health', '40');
    await type(own, 'radius', '0.6');
    await expect(saved(own)).toHaveText('saved');
    await own.reload();
    await tray(own, 'salve tin').click();
    await own.getByRole('button', { name: 'Undo' }).click();
    await own.getByRole('button', { name: 'Undo' }).click();
    await expect(dial(own, 'health')).toHaveAttribute('aria-valuenow', '35');
    await own.getByRole('button', { name: 'Redo' }).click();
    await expect(saved(own)).toHaveText('saved');
    await context.setOffline(true);
    await type(own, 'health', '50');
    await expect(saved(own)).toHaveText('not saved');
    await own.close();
    await context.setOffline(false);
    const again = await context.newPage();
    await openBench(again);
    await tray(again, 'salve tin').click();
    await expect(dial(again, 'health')).toHaveAttribute('aria-valuenow', '50');
    await expect(saved(again)).toHaveText('saved');
    await openBench(page);
    await tray(page, 'salve tin').click();
    await expect(dial(page, 'health')).toHaveAttribute('aria-valuenow', '50');
    await type(page, 'health', '35');
    await expect(saved(page)).toHaveText('saved');
    await context.close();
  });

  test('a level file is exported, and a broken one is refused with its place', async ({ page }) => {
    await openBench(page);
    await page.getByRole('button', { name: 'Files' }).click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Export level' }).click()]);
    const chunks: Buffer[] = [];
    for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
    const text = Buffer.concat(chunks).toString();
    await page.goto('/');
    const file = page.getByLabel('Level file');
    await file.setInputFiles({
      name: 'broken.json',
      mimeType: 'application/json',
      buffer: Buffer.from(text.replace('"speed": 4.5', '"speed": -4.5')),
    });
    await expect(page.getByRole('alert')).toContainText('broken.json was not imported. /body/speed');
    await file.setInputFiles({ name: 'cut.json', mimeType: 'application/json', buffer: Buffer.from(text.slice(0, 400)) });
    await expect(page.getByRole('alert')).toContainText('cut.json was not imported.');
    await expect(page.getByRole('listitem', { name: 'Night Firing', exact: true })).toHaveCount(1);
    await file.setInputFiles({
      name: 'good.json',
      mimeType: 'application/json',
      buffer: Buffer.from(text.replace('Night Firing', 'Second Firing')),
    });
    await expect(page.getByRole('heading', { name: 'Second Firing' })).toBeVisible();
    // It comes without a run: its route is walked.
    await expect(outcome(page)).toHaveText(/final health/);
    expect(await digestOf(page)).toMatch(/^[0-9a-f]{16}$/);
  });
});

test('the needle shows the Plan at its moment', async ({ page }) => {
  await openBench(page);
  const needle = page.getByRole('slider', { name: 'Needle' });
  await needle.focus();
  for (let press = 0; press < 3; press += 1) await page.keyboard.press('PageUp');
  for (let press = 0; press < 5; press += 1) await page.keyboard.press('ArrowLeft');
  await expect(needle).toHaveAttribute('aria-valuetext', '0:14.5');
  await expect(page.getByRole('img', { name: /the run at 0:14\.5: .*\+18 → 64\.5/ })).toBeVisible();
  await expect(page.getByRole('link', { name: /Take over at 0:15/ })).toBeVisible();
  await page.getByRole('tab', { name: 'Ledger' }).click();
  await choose(page.getByLabel('show', { exact: true }), 'refused, or to no effect');
  await page.getByRole('button', { name: /cooling basin 1 refused player 1: resting, 3\.4 s left/ }).click();
  await expect(page.getByRole('img', { name: /the run at 0:17\.5: resting, 3\.4 s left/ })).toBeVisible();
  await page.keyboard.press('p');
  await expect(page.getByRole('button', { name: 'Halt' })).toBeVisible();
  await expect(page.getByRole('img', { name: /the run at 0:18/ })).toBeVisible();
  await page.keyboard.press('p');
  await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeVisible();
});

test('everything on the Bench can be reached and done by keyboard alone', async ({ page }) => {
  await openBench(page);
  const tabTo = async (name: string | RegExp): Promise<void> => {
    const exact = true;
    const wanted = page
      .locator(':focus')
      .and(
        page
          .getByRole('button', { name, exact })
          .or(page.getByRole('slider', { name, exact }))
          .or(page.getByRole('radio', { name, exact })),
      );
    for (let press = 0; press < 80 && (await wanted.count()) === 0; press += 1) await page.keyboard.press('Tab');
    await expect(wanted).toHaveCount(1);
  };
  // What a button does, and by which key, is said where the keyboard reaches it, too.
  await tabTo('Select');
  await expect(page.getByRole('tooltip')).toHaveText(/V$/);
  await tabTo(/^cooling basin/);
  // What lies over the page for a while gives the focus back.
  const focused = page.locator(':focus');
  for (const [key, role, name] of [
    ['Control+k', 'dialog', 'Commands'],
    ['n', 'menu', 'New kind'],
    ['e', 'dialog', 'Files'],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.getByRole(role, { name })).toBeVisible();
    await expect(focused).not.toHaveText(/cooling basin/);
    await page.keyboard.press('Escape');
    await expect(page.getByRole(role, { name })).toHaveCount(0);
    await expect(focused).toHaveText(key === 'Control+k' ? /^cooling basin/ : name);
  }
  await tabTo(/^cooling basin/);
  await page.keyboard.press('Enter');
  await tabTo('rests for');
  await page.keyboard.press('ArrowUp');
  await expect(dial(page, 'rests for')).toHaveAttribute('aria-valuenow', '6.6');
  await page.keyboard.press('Control+z');
  await expect(dial(page, 'rests for')).toHaveAttribute('aria-valuenow', '6.5');
  await page.keyboard.press('l');
  await expect(page.getByRole('region', { name: 'Ledger' })).toBeVisible();
  await page.keyboard.press('l');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: 'The player', exact: true })).toBeVisible();
});
