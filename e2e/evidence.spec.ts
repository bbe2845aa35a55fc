import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { choose, digestOf, expect, expectNoSeriousProblem, openBench, outcome, test, tray, type } from './fixture.ts';
import { begin, makeKind, pressAt } from './planning.ts';

test('why a thing did nothing: its refusals by reason, their causes, and every test of a thing nobody touched', async ({ page }) => {
  await openBench(page);
  await page.keyboard.press('l');
  const ledger = page.getByRole('region', { name: 'Ledger' });
  await choose(ledger.getByLabel('show'), 'refused, or to no effect');
  await choose(ledger.getByLabel('Who'), 'player 1');
  await choose(ledger.getByLabel('Reason'), /^resting/);
  await expect(ledger.getByText(/^2 lines$/)).toBeVisible();
  await ledger.getByRole('button', { name: /cooling basin 1 refused player 1: resting, 3\.4 s left/ }).click();
  const why = page.getByRole('region', { name: 'Why did this not work?' });
  await expect(why).toContainText('it is ready and sensing · resting, 3.4 s left');
  await expectNoSeriousProblem(page);
  // The line before it, of which it rests, has its cause above it.
  await choose(ledger.getByLabel('show'), 'phases');
  await choose(ledger.getByLabel('Who'), 'anybody');
  await ledger.getByLabel('Find lines').fill('basin 1 rests');
  await ledger
    .getByRole('button', { name: /cooling basin 1 rests/ })
    .first()
    .click();
  await expect(page.getByRole('region', { name: 'What brought it about' })).toContainText('cooling basin 1: health +18');
  // Nobody ever came near the salve tin.
  await tray(page, 'salve tin').click();
  await page.getByRole('region', { name: 'placements' }).getByRole('button').first().click();
  await expect(why).toContainText(/Never touched: nearest \d+(\.\d+)? u at 0:\d\d/);
  await why.getByRole('button', { name: /^0:/ }).click();
  await expect(why).toContainText(/the player touches it · \d+(\.\d+)? u too far away/);
});

test('the Strip: from the whole run to single steps, from event to event, a stretch and what it comes to', async ({ page }) => {
  await openBench(page);
  const strip = page.getByRole('region', { name: 'Strip' });
  const needle = page.getByRole('slider', { name: 'Needle' });
  await tray(page, 'cooling basin').click();
  await page.keyboard.press('.');
  await expect(needle).toHaveAttribute('aria-valuetext', '0:14.4');
  await page.keyboard.press(',');
  await expect(needle).toHaveAttribute('aria-valuetext', '0:14.4');
  await needle.focus();
  for (let press = 0; press < 24; press += 1) await page.keyboard.press('+');
  await expect(strip.getByRole('button', { name: 'whole run' })).toBeVisible();
  await page.keyboard.press('0');
  await expect(strip.getByRole('button', { name: 'whole run' })).toBeHidden();
  const box = (await strip.boundingBox()) ?? { x: 0, y: 0, width: 0, height: 0 };
  await page.keyboard.down('Shift');
  await page.mouse.move(box.x + 116, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 4, box.y + 60, { steps: 3 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  // All of the run: what the outcome says of it.
  await expect(page.getByRole('region', { name: 'Chosen stretch' })).toContainText('damage by ember vent63.8');
  await page.getByRole('region', { name: 'Chosen stretch' }).getByRole('button', { name: 'Close' }).click();
  // As high as one wants it, from one time to the next.
  const divider = page.getByRole('separator', { name: 'Height of what stands under the Plan' });
  await divider.focus();
  for (let press = 0; press < 5; press += 1) await page.keyboard.press('ArrowUp');
  const higher = (await strip.boundingBox())?.height ?? 0;
  expect(higher).toBeGreaterThan(box.height + 40);
  await strip.getByRole('button', { name: 'lanes' }).click();
  await page.getByRole('dialog', { name: 'Lanes' }).getByLabel('lives').uncheck();
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(page.getByText(/simulated in/)).toBeVisible();
  await expect(strip.getByText('lives', { exact: true })).toHaveCount(0);
  expect((await strip.boundingBox())?.height).toBeCloseTo(higher, 0);
  await divider.dblclick();
  expect((await strip.boundingBox())?.height).toBeCloseTo(box.height, 0);
});

test('the ghost: outcomes beside each other, where they part, and what each change does alone', async ({ page }) => {
  await openBench(page);
  await page.keyboard.press('c');
  await expect(page.getByRole('status', { name: 'Parting' })).toContainText('at 0:14.4: health 64.52, was 70.52');
  await expect(page.getByRole('row', { name: /^final health 78 62\.2 \+15\.8$/ })).toBeVisible();
  await page.getByRole('button', { name: 'Try each change alone' }).click();
  const alone = page.getByRole('table', { name: 'What each change does alone' });
  await expect(alone.getByRole('row', { name: /rests for 9 → 6\.5 s \+15\.8/ })).toBeVisible();
  await expect(alone.getByRole('row', { name: /health 24 → 18 −12/ })).toBeVisible();
  // Targets differ too, but no session depends on them.
  await expect(alone.getByRole('row')).toHaveCount(3);
  // The same as bars, by one outcome; only what differs can be chosen.
  const bars = page.getByRole('img', { name: 'What each change alone does to health' });
  await expect(bars.getByText('+15.8')).toBeVisible();
  await expect(bars.getByText('−12', { exact: true })).toBeVisible();
  await expectNoSeriousProblem(page);
});

test('a run goes out as a file and comes back as the very session; it is named, starred, deleted and brought back', async ({ page }) => {
  await openBench(page);
  const digest = await digestOf(page);
  await page.getByRole('link', { name: 'Runs' }).click();
  await expect(page.getByRole('region', { name: 'Outcomes' })).toContainText('lowest health');
  const chart = page.getByRole('img', { name: 'Runs of Night Firing over time' });
  await expect(chart.getByText('whole round')).toBeVisible();
  const [drawing] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'SVG' }).click()]);
  expect(await readFile(await drawing.path(), 'utf8')).toMatch(/^<svg[^]*whole round[^]*<\/svg>$/);
  await page.getByRole('button', { name: 'As a table' }).click();
  await expect(page.getByRole('columnheader', { name: 'health: whole round' })).toBeVisible();
  await expect(chart).toBeHidden();
  await page.getByRole('button', { name: 'As a table' }).click();
  await expect(chart).toBeVisible();
  await expectNoSeriousProblem(page);
  const row = page.getByRole('row', { name: 'careful walk', exact: true });
  const [file] = await Promise.all([page.waitForEvent('download'), row.getByRole('button', { name: 'Export' }).click()]);
  const text = await readFile(await file.path(), 'utf8');
  const asFile = (name: string, content: string) => ({ name, mimeType: 'application/json', buffer: Buffer.from(content) });
  await page.getByLabel('Run to import').setInputFiles(asFile('broken.json', text.slice(0, 200)));
  await expect(page.getByText('The import of “broken.json” was not done.')).toBeVisible();
  await page.getByLabel('Run to import').setInputFiles(asFile('again.json', text.replace('careful walk', 'carried over')));
  const carried = page.getByRole('row', { name: 'carried over', exact: true });
  await carried.getByRole('button', { name: 'Star carried over' }).click();
  await expect(carried.getByRole('button', { name: 'Star carried over' })).toHaveAttribute('aria-pressed', 'true');
  await carried.getByRole('link', { name: 'Open' }).click();
  await expect(page.getByText(/simulated in/)).toBeVisible();
  expect(await digestOf(page)).toBe(digest);
  await page.getByRole('link', { name: 'Runs' }).click();
  await carried.getByRole('button', { name: 'Delete carried over' }).click();
  await expect(carried).toHaveCount(0);
  await page.getByRole('status').filter({ hasText: 'is deleted' }).getByRole('button', { name: 'Undo' }).click();
  await expect(carried).toBeVisible();
  await carried.getByRole('button', { name: 'Delete carried over' }).click();
  await row.getByRole('link', { name: 'Report' }).click();
  await expect(page.getByRole('article', { name: 'Report' })).toContainText('final health78');
  const pages = (await page.pdf({ format: 'A4' })).toString('latin1').match(/\/Type\s*\/Page\b/g);
  expect(pages).toHaveLength(1);
  await expectNoSeriousProblem(page);
});

test('the ledger, the outcome and the Strip go out as files', async ({ page }) => {
  await openBench(page);
  const take = async (name: string): Promise<string> => {
    await page.keyboard.press('e');
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name, exact: true }).click()]);
    return readFile(await file.path(), 'utf8');
  };
  const lines = (await take('Export Ledger (NDJSON)')).trimEnd().split('\n');
  expect(lines.length).toBeGreaterThan(100);
  expect((await take('Export Ledger (CSV)')).split('\r\n')).toHaveLength(lines.length + 2);
  expect(JSON.parse(await take('Export outcome (JSON)'))).toMatchObject({ players: [{ deaths: 0 }] });
  expect(await take('Export Strip (SVG)')).toMatch(/^<svg[\s\S]*health[\s\S]*<\/svg>/);
  expect((await take('Export Strip (PNG)')).slice(1, 4)).toBe('PNG');
});

test('a route is walked anew on each change, and says where it got stuck', async ({ page }) => {
  await begin(page, 'Walled works');
  await makeKind(page, 'mend');
  await page.keyboard.press('Escape');
  await page.keyboard.press('r');
  await pressAt(page, 6, 5);
  await pressAt(page, 14, 5);
  await page.keyboard.press('Enter');
  await expect(page.getByText(/simulated in/)).toBeVisible();
  await page.keyboard.press('v');
  await page.keyboard.press('Escape');
  const length = async (): Promise<number> => Number(await page.getByRole('slider', { name: 'Needle' }).getAttribute('aria-valuemax'));
  const walked = await length();
  await type(page, 'walk speed', '10');
  await expect.poll(length).toBeLessThan(walked * 0.8);
  await page.keyboard.press('s');
  await page.getByRole('img', { name: /^Plan of/ }).focus();
  await page.keyboard.press('Enter');
  await type(page, 'height', '18');
  await type(page, 'right', '9');
  await type(page, 'up', '0');
  await expect(page.getByRole('alert')).toContainText('The walker is stuck on the way to way-point 2');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expect(outcome(page)).toContainText('final health');
  // Of a route that is gone the last walk stays on the Strip; brought back, it is walked again.
  for (let undone = 0; undone < 4; undone += 1) await page.keyboard.press('Control+z');
  await expect.poll(length).toBe(walked);
  const digest = await digestOf(page);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('combobox', { name: 'Run on the Strip' })).toContainText('route, as it was');
  expect([await length(), await digestOf(page)]).toEqual([walked, digest]);
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('combobox', { name: 'Run on the Strip' })).toHaveText(/walked/);
  // Taken over in an address that is opened anew: there the route is walked first.
  await page.getByRole('slider', { name: 'Needle' }).focus();
  await page.keyboard.press('PageUp');
  await page.getByRole('link', { name: /Take over at 0:0[1-9]/ }).click();
  const clock = page.getByRole('group', { name: 'Readouts' });
  await expect(clock).toContainText(/0:0[1-9]/);
  await page.reload();
  await expect(clock).toContainText(/0:0[1-9]/);
});

test('two clicks to the cause: what a notice set off, and what is hidden but still solid', async ({ page, request }) => {
  const body = { body: { type: 'circle', radius: 0.5 } };
  const data = {
    format: 1,
    name: 'Flue works',
    view: 'top',
    size: { width: 24, height: 12 },
    body: { radius: 0.4, speed: 4, acceleration: 40, braking: 40 },
    start: { x: 3, y: 6 },
    meters: {
      health: { name: 'health', lower: 0, upper: 100, start: 100 },
      score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
    },
    kinds: {
      plate: {
        ...{ name: 'flue plate', role: 'return', mark: 'bar', shapes: body },
        rules: {
          act: { setOffBy: { type: 'arriving' }, effects: { post: { type: 'notice', notice: 'flue-open' } }, becomes: { type: 'spent' } },
        },
      },
      damper: {
        ...{ name: 'damper', role: 'harm', mark: 'wave', shapes: body, solid: { width: 1, height: 4 } },
        rules: { open: { setOffBy: { type: 'notice', notice: 'flue-open' }, becomes: { type: 'spent' } } },
        phases: { spent: { shown: 'hidden', solid: true, sensing: false } },
      },
    },
    placements: { plate: { kind: 'plate', x: 8, y: 6 }, damper: { kind: 'damper', x: 14, y: 6 } },
    routes: { way: { name: 'through', wayPoints: [{ x: 20, y: 6 }] } },
  };
  const made = (await (await request.post('/api/levels', { data })).json()) as { readonly id: string };
  await page.goto(`/levels/${made.id}`);
  await expect(page.getByText(/simulated in/)).toBeVisible();
  await page.keyboard.press('l');
  await page.getByRole('button', { name: /damper is spent/ }).click();
  await expect(page.getByRole('region', { name: 'What brought it about' })).toContainText('flue plate posts flue-open');
  const here = page.getByRole('list', { name: 'Found here' });
  await expect(here).toContainText('While spent, damper is hidden but solid.');
  await page.getByLabel('spent: solid').uncheck();
  await expect(here.getByText('hidden but solid')).toHaveCount(0);
  await expect(outcome(page)).toHaveText(/final health/);
});

test('what happens from outside is stated at the needle, moved along the Strip, taken back; a walk with events becomes a run', async ({
  page,
  request,
}) => {
  const document: unknown = JSON.parse(readFileSync(join(process.cwd(), 'demo/night-firing/level.json'), 'utf8'));
  const { id } = (await (await request.post('/api/levels', { data: document })).json()) as { id: string };
  await page.goto(`/levels/${id}`);
  await expect(outcome(page)).toHaveText(/final health 78/);
  await page.getByRole('slider', { name: 'Needle' }).focus();
  await page.keyboard.press('PageUp');
  await page.getByRole('button', { name: /^events/ }).click();
  await page.getByLabel('By', { exact: true }).fill('');
  await expect(page.getByRole('button', { name: 'Add', exact: true })).toBeDisabled();
  await page.getByLabel('By', { exact: true }).fill('-200');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Run on the Strip')).toContainText('careful walk, with events');
  await expect(outcome(page)).toHaveText(/lives 2/);
  const mark = page.getByRole('slider', { name: 'From outside, player 1: health −200' });
  // A change is taken back also while it is still on its way to the server.
  await page.route('**/runs/*', async (route) => {
    await new Promise((later) => setTimeout(later, 500));
    await route.continue();
  });
  await page.getByLabel('By', { exact: true }).fill('-1');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('slider', { name: 'From outside, player 1: health −1' })).toBeVisible();
  await page.getByRole('button', { name: 'Take the last change back' }).click();
  await expect(page.getByRole('slider', { name: 'From outside' })).toHaveCount(1);
  await page.unrouteAll({ behavior: 'wait' });
  await mark.focus();
  await page.keyboard.press('ArrowRight');
  await expect(mark).toHaveAttribute('aria-valuetext', '0:05.1');
  const events = async (): Promise<unknown> => {
    const run = new URL(page.url()).searchParams.get('run') ?? '';
    return ((await (await request.get(`/api/levels/${id}/runs/${run}`)).json()) as { run: { events: unknown } }).run.events;
  };
  await expect.poll(events).toEqual([{ what: 'meter', step: 307, player: 1, meter: 'health', by: -200 }]);
  await page.reload();
  await expect(mark).toHaveAttribute('aria-valuetext', '0:05.1');
  await mark.focus();
  await page.keyboard.press('Delete');
  await expect(outcome(page)).toHaveText(/lives 3/);
  await expect.poll(events).toEqual([]);
});
