import type { Locator, Page } from '@playwright/test';

const TURNS = 60;

/** Nobody turns a dial of a page that is just there: it stands for so long, and practises what comes. Milliseconds. */
export const STANDS = 3000;

/** Turns a tape to and fro: milliseconds until each turn was seen, and those of it that were simulated. */
export async function turned(page: Page, tape: Locator): Promise<{ turns: number[]; simulations: number[] }> {
  await tape.waitFor();
  await page.getByText(/simulated in/).waitFor();
  await page.waitForTimeout(STANDS);
  const turns: number[] = [];
  const simulations: number[] = [];
  for (let turn = 0; turn < TURNS + 10; turn += 1) {
    const measured = await tape.evaluate(
      (element, key) =>
        new Promise<{ painted: number; simulated: number }>((resolve) => {
          const pill = document.querySelector('[data-digest]');
          const before = pill?.getAttribute('data-digest');
          const start = performance.now();
          const observer = new MutationObserver(() => {
            if (pill?.getAttribute('data-digest') === before) return;
            observer.disconnect();
            // The frame after this one begins once this one, with the Strip in it, has been painted.
            requestAnimationFrame(() => {
              const channel = new MessageChannel();
              channel.port1.onmessage = () =>
                resolve({
                  painted: performance.now() - start,
                  simulated: Number(/\d+/.exec(pill?.parentElement?.textContent ?? '')?.[0]),
                });
              channel.port2.postMessage(null);
            });
          });
          if (pill !== null) observer.observe(pill, { attributes: true });
          element.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
        }),
      turn % 2 === 0 ? 'ArrowRight' : 'ArrowLeft',
    );
    if (turn < 10) continue;
    turns.push(measured.painted);
    simulations.push(measured.simulated);
  }
  return { turns, simulations };
}
