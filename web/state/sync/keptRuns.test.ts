/** Runs that are kept from the page: plays however they end, and what happens to runs from outside. */
import type { Outside } from '@dial/core/players';
import { basin, level, runOf } from '../../../core/testing/levels.ts';
import { documentActions } from '../slices/document.ts';
import { simulatedActions, toBeWalked } from '../slices/simulated.ts';
import { canTakeBack, changeEvents, takeBackEvents, withOneMore } from './outside.ts';
import { sendPlay, sendPlays, writePlay } from './plays.ts';
import { createStore, type AppStore } from '../store.ts';

const run = runOf(60, 60, [[[1, 127, 0, 0]]]);

/** A server that takes each request after so many milliseconds, or refuses it. Answers what reached it, in order. */
function pretendServer(after: (call: number) => number | 'refused'): string[] {
  const reached: string[] = [];
  let calls = 0;
  globalThis.fetch = async (input, init): Promise<Response> => {
    const wait = after((calls += 1));
    await new Promise((resolve) => setTimeout(resolve, wait === 'refused' ? 0 : wait));
    const body = JSON.parse(typeof init?.body === 'string' ? init.body : '{}') as { steps?: number; events?: Outside[] };
    if (wait === 'refused') return new Response(JSON.stringify({ title: 'x', type: 'x', status: 500, detail: 'no' }), { status: 500 });
    const [id = ''] = (typeof input === 'string' ? input : '').split('/').slice(-1);
    reached.push(`${id} ${String(body.steps ?? body.events?.map(({ step }) => step).join())}`);
    return new Response(JSON.stringify({ id, name: 'run', starred: false, seconds: 1, createdAt: '' }));
  };
  return reached;
}

describe('a play', () => {
  test('that is sent from two places at once is sent once; one that the server did not take goes the next time', async () => {
    const reached = pretendServer((call) => (call === 2 ? 'refused' : 0));
    writePlay({ level: 'one', id: 'a', run });
    await Promise.all([sendPlay({ level: 'one', id: 'a', run }), sendPlays()]);
    writePlay({ level: 'one', id: 'a', run });
    await sendPlays();
    expect(reached).toEqual(['a 60']);
    writePlay({ level: 'one', id: 'b', run });
    await expect(sendPlay({ level: 'one', id: 'b', run })).rejects.toThrow('no');
    await sendPlays();
    expect(reached).toEqual(['a 60', 'b 60']);
  });

  test('that goes on is not sent; where the browser is full it is sent as it is played, not as it was last written down', async () => {
    const reached = pretendServer(() => 0);
    writePlay({ level: 'one', id: 'c', run });
    await sendPlays();
    expect(reached).toEqual([]);
    const setItem = () => {
      throw new Error('full');
    };
    const full = { setItem, getItem: () => null, removeItem: () => undefined };
    Object.defineProperty(globalThis, 'localStorage', { value: full, configurable: true });
    const longer = { ...run, steps: 120 };
    expect(() => writePlay({ level: 'one', id: 'c', run: longer })).toThrow('full');
    await sendPlay({ level: 'one', id: 'c', run: longer });
    expect(reached).toEqual(['c 120']);
    Reflect.deleteProperty(globalThis, 'localStorage');
  });
});

describe('what happens to a run from outside', () => {
  const loss = (step: number): Outside => ({ what: 'meter', step, player: 1, meter: 'health', by: -1 });
  const opened = (): AppStore => {
    const store = createStore();
    const document = level({ kinds: { basin } });
    store.dispatch(documentActions.opened({ id: 'one', level: document, revision: 1, compared: null, run: { id: 'r', run } }));
    return store;
  };
  const shown = (store: AppStore) => store.getState().simulated.run?.run.events.map(({ step }) => step);

  test('that is a walk which could not be kept, it stays the walk of its route', async () => {
    pretendServer(() => 'refused');
    const store = opened();
    const walk = {
      ...toBeWalked(level({ routes: { round: { name: 'round', wayPoints: [{ x: 1, y: 1 }] } } }), { route: 'round' }),
      walked: run,
    };
    store.dispatch(simulatedActions.runChosen(walk));
    await changeEvents(store, [loss(10)]);
    expect(store.getState().simulated.run).toEqual(walk);
    expect(store.getState().view.trouble).toContain('as they were');
  });

  test('changed again before the first change is there, it reaches the server in that order; each is taken back', async () => {
    const reached = pretendServer((call) => (call === 1 ? 30 : 0));
    const store = opened();
    await Promise.all([changeEvents(store, [loss(10)]), changeEvents(store, [loss(20)])]);
    expect([reached, shown(store)]).toEqual([['r 10', 'r 20'], [20]]);
    await takeBackEvents(store);
    expect(shown(store)).toEqual([10]);
    await takeBackEvents(store);
    expect([reached.slice(2), shown(store), canTakeBack('r')]).toEqual([['r 10', 'r '], [], false]);
  });

  test('a change that is refused is undone and said; not on another run that is shown by then', async () => {
    pretendServer(() => 'refused');
    const store = opened();
    await changeEvents(store, [loss(10)]);
    expect([shown(store), store.getState().view.trouble]).toEqual([[], expect.stringContaining('as they were: no')]);
    const late = changeEvents(store, [loss(10)]);
    store.dispatch(simulatedActions.runChosen({ id: 'other', run: { ...run, events: [loss(5)] } }));
    await late;
    expect([shown(store), store.getState().view.trouble]).toEqual([[5], null]);
  });
});

test('who is to join and is there already leaves with the first step; who left before simply joins', () => {
  const at = (what: 'join' | 'leave', step: number, player = 2): Outside => ({ what, step, player });
  expect(withOneMore([], at('join', 90))).toEqual([at('leave', 1), at('join', 90)]);
  expect(withOneMore([at('leave', 30, 1)], at('join', 90))).toEqual([at('leave', 1), at('leave', 30, 1), at('join', 90)]);
  expect(withOneMore([at('leave', 30)], at('join', 90))).toEqual([at('leave', 30), at('join', 90)]);
  expect(withOneMore([], at('leave', 90))).toEqual([at('leave', 90)]);
});
