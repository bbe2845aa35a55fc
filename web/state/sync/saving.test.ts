import { setAt, valueAt } from '@dial/core/level';
import { basin, level } from '../../../core/testing/levels.ts';
import { documentActions } from '../slices/document.ts';
import { redo, setValue, undo } from '../document/edits.ts';
import { checkInFull } from './checking.ts';
import { hearChange, hearRevision } from './following.ts';
import { withEdits } from './keeping.ts';
import { settleClash, startSaving, takeBackRejected, whenAllSent } from './saving.ts';
import { savingAfter, type Saving, type SavingEvent } from '../slices/savingMachine.ts';
import { createStore, type AppStore } from '../store.ts';

const REST = '/kinds/basin/rules/act/becomes/seconds';
const SHOW = '/kinds/basin/shapes/body/radius';

interface Sent {
  readonly key: string;
  readonly revision: string;
  readonly body: string;
}

/** A server of a few lines: one level, its revision and the keys it has seen. `mishap` may spoil an answer. */
function pretendServer(mishap: (call: number) => 'lost reply' | 'unreachable' | number | null = () => null) {
  const state = {
    document: level({ kinds: { basin } }),
    revision: 1,
    keys: new Map<string, number>(),
    sent: [] as Sent[],
    /** Names of studies that were begun, and the revision the level was at. */
    studies: [] as (readonly [name: string, revision: number])[],
    busy: 0,
    mostBusy: 0,
  };
  const reply = (status: number, body: unknown): Response => new Response(JSON.stringify(body), { status });
  globalThis.fetch = async (_, init): Promise<Response> => {
    if (init?.method === 'PUT') {
      state.studies.push([(JSON.parse(init.body as string) as { name: string }).name, state.revision]);
      return reply(503, { type: 'about:blank', status: 503, title: 'Busy', detail: 'not now' });
    }
    if (init?.method !== 'PATCH') return reply(200, { id: 'one', revision: state.revision, document: state.document, updatedAt: '' });
    state.busy += 1;
    state.mostBusy = Math.max(state.mostBusy, state.busy);
    await new Promise((resolve) => setTimeout(resolve, 0));
    state.busy -= 1;
    const headers = init.headers as Record<string, string>;
    const { 'idempotency-key': key = '', 'if-match': revision = '' } = headers;
    const body = typeof init.body === 'string' ? init.body : '';
    state.sent.push({ key, revision, body });
    const trouble = mishap(state.sent.length);
    if (trouble === 'unreachable') throw new TypeError('unreachable');
    if (typeof trouble === 'number')
      return reply(trouble, { type: 'about:blank', status: trouble, title: 'Refused', detail: `refused with ${String(trouble)}` });
    const known = state.keys.get(key);
    if (known === undefined) {
      if (revision !== `"${state.revision}"`)
        return reply(409, {
          type: 'about:blank',
          status: 409,
          title: 'Clash',
          detail: 'The level has moved on.',
          revision: state.revision,
        });
      state.document = structuredClone(state.document);
      for (const { op, path, value } of JSON.parse(body) as { op: string; path: string; value: unknown }[])
        if (op === 'replace' || op === 'add') setAt(state.document, path, value);
      state.revision += 1;
      state.keys.set(key, state.revision);
    }
    if (trouble === 'lost reply') throw new TypeError('lost');
    return reply(200, { id: 'one', revision: known ?? state.revision });
  };
  return state;
}

let leavePage = (): void => undefined;

function openStore(): AppStore {
  globalThis.addEventListener = ((_: string, listener: () => void) => {
    leavePage = listener;
  }) as typeof globalThis.addEventListener;
  const store = createStore();
  startSaving(store);
  store.dispatch(documentActions.opened({ id: 'one', level: level({ kinds: { basin } }), revision: 1, compared: null, run: null }));
  return store;
}

/** Waits until the store says so; the test's own time limit ends a wait in vain. */
const until = (store: AppStore, holds: () => boolean): Promise<void> =>
  new Promise((resolve) => {
    if (holds()) resolve();
    const stop = store.subscribe(() => {
      if (!holds()) return;
      stop();
      resolve();
    });
  });
const savingState = (store: AppStore): string => store.getState().saving.now.state;
const allSaved = (store: AppStore) => (): boolean => store.getState().saving.unsent.length === 0 && savingState(store) === 'idle';

test('edits go one at a time, in order, each on the revision the one before led to', async () => {
  const server = pretendServer();
  const store = openStore();
  for (const value of [5, 4, 3]) expect(setValue(store, [REST], 'rests for', value)).toBeNull();
  await until(store, allSaved(store));
  expect(server.sent.map(({ revision }) => revision)).toEqual(['"1"', '"2"', '"3"']);
  expect([server.mostBusy, valueAt(server.document, REST)]).toEqual([1, 3]);
});

test('a reply lost on the way is no clash and applies nothing twice', async () => {
  const server = pretendServer((call) => (call === 1 ? 'lost reply' : null));
  const store = openStore();
  setValue(store, [REST], 'rests for', 5);
  await until(store, () => savingState(store) === 'waiting');
  await until(store, allSaved(store));
  expect(new Set(server.sent.map(({ key }) => key)).size).toBe(1);
  expect([server.sent.length, server.revision, store.getState().saving.revision]).toEqual([2, 2, 2]);
});

test('edits made while the server is away are kept and sent when it is back', async () => {
  const server = pretendServer((call) => (call <= 2 ? 'unreachable' : null));
  const store = openStore();
  setValue(store, [REST], 'rests for', 5);
  await until(store, () => savingState(store) === 'waiting');
  setValue(store, [SHOW], 'radius', 2);
  await until(store, allSaved(store));
  expect([valueAt(server.document, REST), valueAt(server.document, SHOW)]).toEqual([5, 2]);
});

test('an edit elsewhere at another place is taken in; at the same place the person chooses', async () => {
  const server = pretendServer();
  const elsewhere = (path: string, value: number): void => {
    server.document = structuredClone(server.document);
    setAt(server.document, path, value);
    server.revision += 1;
  };
  const store = openStore();
  elsewhere(SHOW, 3);
  setValue(store, [REST], 'rests for', 5);
  await until(store, allSaved(store));
  expect([valueAt(server.document, REST), valueAt(store.getState().document.open?.level, SHOW)]).toEqual([5, 3]);

  elsewhere(REST, 9);
  setValue(store, [REST], 'rests for', 2);
  await until(store, () => savingState(store) === 'clash');
  expect(store.getState().saving.now).toMatchObject({ values: [{ path: REST, mine: 2, theirs: 9 }] });
  settleClash(store, 'mine');
  await until(store, allSaved(store));
  expect(valueAt(server.document, REST)).toBe(2);

  elsewhere(REST, 8);
  setValue(store, [REST], 'rests for', 1);
  await until(store, () => savingState(store) === 'clash');
  settleClash(store, 'theirs');
  expect(valueAt(store.getState().document.open?.level, REST)).toBe(8);
  expect(allSaved(store)()).toBe(true);
});

test('edits that turn out to be on the server already are no clash', async () => {
  const server = pretendServer();
  const store = openStore();
  server.document = structuredClone(server.document);
  setAt(server.document, REST, 5);
  server.revision += 1;
  setValue(store, [REST], 'rests for', 5);
  await until(store, allSaved(store));
  expect([valueAt(store.getState().document.open?.level, REST), store.getState().saving.revision]).toEqual([5, 2]);
  // Nor is what the server writes in another order.
  const there = Object.fromEntries(Object.entries(store.getState().document.open!.level.start).reverse());
  setAt(server.document, '/start', { ...there, x: 7 });
  server.revision += 1;
  setValue(store, ['/start'], 'start', { ...store.getState().document.open!.level.start, x: 7 });
  await until(store, allSaved(store));
  expect(store.getState().saving.revision).toBe(3);
});

test('another level is opened only when the edits of this one are safe', async () => {
  const server = pretendServer((call) => (call === 3 ? 'unreachable' : null));
  const store = openStore();
  for (const value of [5, 4]) setValue(store, [REST], 'rests for', value);
  await whenAllSent(store);
  expect(valueAt(server.document, REST)).toBe(4);
  setValue(store, [REST], 'rests for', 3);
  await expect(whenAllSent(store)).rejects.toThrow('not saved yet');
  await until(store, allSaved(store));
});

test('targets are checked once all edits are on the server, and not while they cannot be sent', async () => {
  const server = pretendServer((call) => (call === 3 ? 'unreachable' : null));
  const store = openStore();
  for (const value of [5, 4]) setValue(store, [REST], 'rests for', value);
  await checkInFull(store);
  expect(server.studies).toEqual([['check of revision 3', 3]]);
  setValue(store, [REST], 'rests for', 3);
  await checkInFull(store);
  expect([server.studies.length, store.getState().view.trouble]).toEqual([1, expect.stringContaining('not saved yet') as string]);
  await until(store, allSaved(store));
});

test('edits made just before the page is left all arrive, the one under way and those after it', async () => {
  const server = pretendServer();
  const store = openStore();
  setValue(store, [REST], 'rests for', 5);
  setValue(store, [REST], 'rests for', 4);
  setValue(store, [SHOW], 'radius', 2);
  leavePage();
  await until(store, allSaved(store));
  expect([valueAt(server.document, REST), valueAt(server.document, SHOW)]).toEqual([4, 2]);
  expect(server.sent.slice(0, 3).map(({ revision }) => revision)).toEqual(['"1"', '"2"', '"3"']);
  // Each goes under the key it was made with, however often it is sent: what the browser has kept is not made twice.
  const keys = server.sent.map(({ key }) => key);
  expect([new Set(keys).size, server.revision]).toEqual([3, 4]);
});

test('a change of somebody else’s that is heard while a reply is lost is caught up with once all is saved', async () => {
  const server = pretendServer((call) => (call === 1 ? 'lost reply' : null));
  const store = openStore();
  setValue(store, [REST], 'rests for', 5);
  await until(store, () => savingState(store) === 'waiting');
  server.document = structuredClone(server.document);
  setAt(server.document, SHOW, 3);
  server.revision += 1;
  hearRevision(store, 'one', server.revision);
  await until(store, allSaved(store));
  await until(store, () => store.getState().saving.revision === 3);
  expect(valueAt(store.getState().document.open?.level, SHOW)).toBe(3);
});

test.each([413, 422, 400, 404])('an edit that is refused for good (%s) is sent once, locks nothing, and is taken back', async (status) => {
  const server = pretendServer((call) => (call === 1 ? status : null));
  const store = openStore();
  setValue(store, [REST], 'rests for', 5);
  await until(store, () => savingState(store) === 'rejected');
  expect(store.getState().saving.now).toMatchObject({ why: `refused with ${String(status)}`, gone: status === 404 });
  // Edits made since wait behind it: one stands without it, one does not.
  setValue(store, [SHOW], 'radius', 2);
  setValue(store, [REST], 'rests for', 4);
  await expect(whenAllSent(store)).rejects.toThrow('does not take');
  expect(server.sent).toHaveLength(1);
  await takeBackRejected(store);
  await until(store, allSaved(store));
  expect([valueAt(server.document, REST), valueAt(server.document, SHOW)]).toEqual([6.5, 2]);
  expect(store.getState().view.trouble).toContain('One edit made after it');
});

test('while the server is away an edit is tried again after longer and longer waits, and at once when it is back', async () => {
  jest.useFakeTimers();
  try {
    let away = true;
    const server = pretendServer(() => (away ? 'unreachable' : null));
    const store = openStore();
    setValue(store, [REST], 'rests for', 5);
    const calls: number[] = [];
    for (let second = 0; second < 40; second += 1) {
      await jest.advanceTimersByTimeAsync(500);
      calls.push(server.sent.length);
    }
    // After 0, 0.5, 1.5, 3.5, 7.5, 15.5 seconds.
    expect([calls[0], calls[1], calls[3], calls[7], calls[15], calls[32]]).toEqual([1, 2, 3, 4, 5, 6]);
    away = false;
    await jest.advanceTimersByTimeAsync(8000);
    expect([savingState(store), server.revision]).toEqual(['idle', 2]);
  } finally {
    jest.useRealTimers();
  }
});

describe('saving, state by state', () => {
  const states: Record<Saving['state'], Saving> = {
    idle: { state: 'idle' },
    sending: { state: 'sending', key: 'a', tries: 2 },
    waiting: { state: 'waiting', key: 'a', tries: 2, why: 'away' },
    clash: { state: 'clash', theirs: level({}), revision: 4, values: [] },
    rejected: { state: 'rejected', key: 'a', why: 'no', gone: false },
  };
  const failed = (status: number): SavingEvent => ({ what: 'failed', status, why: 'no' });
  const clashed: SavingEvent = { what: 'clashed', theirs: level({}), revision: 4, values: [] };
  test.each<[Saving['state'], SavingEvent, object]>([
    ['idle', { what: 'send', key: 'a' }, { state: 'sending', key: 'a', tries: 1 }],
    ['waiting', { what: 'send', key: 'a' }, { state: 'sending', key: 'a', tries: 3 }],
    ['waiting', { what: 'send', key: 'b' }, { state: 'sending', key: 'b', tries: 1 }],
    ['clash', { what: 'send', key: 'a' }, states.clash],
    ['rejected', { what: 'send', key: 'b' }, states.rejected],
    ['sending', { what: 'send', key: 'b' }, states.sending],
    ['sending', { what: 'saved' }, { state: 'idle' }],
    ['clash', { what: 'saved' }, states.clash],
    ['rejected', { what: 'saved' }, states.rejected],
    ['sending', failed(0), { state: 'waiting', key: 'a', tries: 2, why: 'no' }],
    ['sending', failed(503), { state: 'waiting', key: 'a', tries: 2, why: 'no' }],
    ['sending', failed(413), { state: 'rejected', key: 'a', why: 'no', gone: false }],
    ['sending', failed(404), { state: 'rejected', key: 'a', why: 'no', gone: true }],
    ['clash', failed(0), states.clash],
    ['sending', clashed, states.clash],
    ['rejected', { what: 'cleared' }, { state: 'idle' }],
    ['clash', { what: 'cleared' }, { state: 'idle' }],
    ['waiting', { what: 'cleared' }, { state: 'idle' }],
  ])('%s, %j', (from, event, to) => {
    expect(savingAfter(states[from], event)).toEqual(to);
  });
});

test('undo and redo are new guarded patches, and go out like any edit', async () => {
  const server = pretendServer();
  const store = openStore();
  setValue(store, [REST], 'rests for', 5);
  undo(store);
  await until(store, allSaved(store));
  expect([valueAt(server.document, REST), server.revision]).toEqual([6.5, 3]);
  redo(store);
  await until(store, allSaved(store));
  expect([valueAt(server.document, REST), server.revision]).toEqual([5, 4]);
  expect(setValue(store, [REST], 'rests for', -3)).toBe('must be at least 0');
  expect(valueAt(store.getState().document.open?.level, REST)).toBe(5);
});

test('an edit saved elsewhere is taken in at once; one that was missed is fetched, and nothing is taken twice', async () => {
  const server = pretendServer();
  const store = openStore();
  const shown = (path: string): unknown => valueAt(store.getState().document.open?.level, path);
  const saved = (path: string, value: number) => {
    server.document = structuredClone(server.document);
    const operations = [
      { op: 'test' as const, path, value: valueAt(server.document, path) as number },
      { op: 'replace' as const, path, value },
    ];
    setAt(server.document, path, value);
    server.revision += 1;
    return { revision: server.revision, key: `elsewhere-${String(server.revision)}`, operations };
  };
  const first = saved(REST, 9);
  hearChange(store, 'one', first);
  hearChange(store, 'one', first);
  expect([shown(REST), store.getState().saving.revision]).toEqual([9, 2]);
  saved(REST, 11);
  hearChange(store, 'one', saved(SHOW, 2));
  await until(store, () => shown(SHOW) === 2);
  expect([shown(REST), shown(SHOW), store.getState().saving.revision]).toEqual([11, 2, 4]);
  saved(SHOW, 3);
  hearRevision(store, 'one', server.revision);
  await until(store, () => shown(SHOW) === 3);
  // While an edit of our own is on its way it stays as it is: the answer to that says where it goes.
  setValue(store, [REST], 'rests for', 5);
  hearChange(store, 'one', saved(SHOW, 4));
  expect(shown(REST)).toBe(5);
  await until(store, allSaved(store));
  expect([valueAt(server.document, REST), shown(SHOW)]).toEqual([5, 4]);
  // What is heard while a clash waits to be settled is fetched once theirs has been chosen, though nothing is sent then.
  saved(REST, 20);
  setValue(store, [REST], 'rests for', 6);
  await until(store, () => savingState(store) === 'clash');
  hearChange(store, 'one', saved(SHOW, 5));
  settleClash(store, 'theirs');
  expect(shown(SHOW)).toBe(4);
  await until(store, () => shown(SHOW) === 5);
  expect([shown(REST), store.getState().saving.revision]).toEqual([20, server.revision]);
  // A fetch that fails is made again. What is edited meanwhile waits for no more than the fetch.
  const { fetch } = globalThis;
  jest.useFakeTimers();
  globalThis.fetch = () => Promise.reject(new TypeError('away'));
  hearRevision(store, 'one', (saved(SHOW, 6), server.revision));
  await jest.advanceTimersByTimeAsync(1);
  expect(store.getState().view.trouble).toMatch(/cannot be fetched/);
  globalThis.fetch = fetch;
  await jest.advanceTimersByTimeAsync(6000);
  expect(shown(SHOW)).toBe(6);
  // A revision the server never comes to is asked for now and then, not without a pause.
  let asked = 0;
  globalThis.fetch = (...request) => ((asked += 1), fetch(...request));
  hearRevision(store, 'one', server.revision + 9);
  await jest.advanceTimersByTimeAsync(11_000);
  expect([asked, store.getState().saving.revision]).toEqual([3, server.revision]);
  jest.useRealTimers();
});

test('edits kept while the server was away are shown as they were made, whatever their guards say', () => {
  const before = level({ kinds: { basin } });
  const guard = { op: 'test' as const, path: REST, value: 77 };
  const edits = [{ key: 'kept-edit-1', operations: [guard, { op: 'replace' as const, path: REST, value: 5 }] }];
  expect([valueAt(withEdits(before, edits), REST), withEdits(before, [])]).toEqual([5, before]);
});
