import { levelText } from '../core/formats/index.ts';
import { digestSessions, keptDigests } from '../core/testing/sessions.ts';
import { digestOf, expect, test } from './fixture.ts';

const { digests } = keptDigests();

for (const { name, level, run } of digestSessions()) {
  test(`in Chromium, "${name}" comes to the digest it has in Node`, async ({ page, request }) => {
    const headers = { 'content-type': 'application/json' };
    const imported = (await (await request.post('/api/levels', { data: levelText(level), headers })).json()) as { id: string };
    await request.put(`/api/levels/${imported.id}/runs/digest-run`, { data: run, headers });
    await page.goto(`/levels/${imported.id}`);
    await expect(page.getByText(/simulated in/)).toBeVisible();
    expect(await digestOf(page)).toBe(digests[name]);
  });
}
