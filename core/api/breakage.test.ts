import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { createBreakage } from './breakage.ts';

setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;
/** Memory is let go of at a pause between turns of the event loop, not at once. */
const pause = () => new Promise((resolve) => setTimeout(resolve, 0));

test('an answer that was given is kept nowhere, however long nothing breaks', async () => {
  const breakage = createBreakage();
  const answers: WeakRef<object>[] = [];
  const ask = async (): Promise<void> => {
    const answer = { rows: new Array(1000).fill(0) };
    answers.push(new WeakRef(answer));
    await breakage.orElse(Promise.resolve(answer));
    await breakage.orElse(Promise.reject(Object.assign(new Error('no such row'), { answer }))).catch(() => undefined);
  };
  for (let asked = 0; asked < 20; asked += 1) await ask();
  await pause();
  collect();
  expect(answers.filter((one) => one.deref() !== undefined).length).toBeLessThanOrEqual(1);
});

test('whoever waits when it breaks is told, and whoever asks after', async () => {
  const breakage = createBreakage();
  const waits = breakage.orElse(new Promise(() => undefined));
  breakage.happen(new Error('gone'));
  breakage.happen(new Error('gone again'));
  await expect(waits).rejects.toThrow('gone');
  await expect(breakage.orElse(Promise.resolve(1))).rejects.toThrow(/^gone$/);
});
