import { level } from '../../../core/testing/levels.ts';
import { readAside, toggleHidden, toggleLocked, showAll, idsIn } from '../view/aside.ts';
import { documentActions } from '../slices/document.ts';
import { savingActions } from '../slices/saving.ts';
import { viewActions } from '../slices/view.ts';
import { setValue, undo } from '../document/edits.ts';
import { keptSteps, startKeeping, takeUnsent } from './keeping.ts';
import { createStore, type AppStore } from '../store.ts';

/** What a browser has for keeping: two stores, locks by name, and a page that can be left. */
class PretendStore {
  readonly [name: string]: unknown;
  getItem(name: string): string | null {
    return Object.hasOwn(this, name) ? (this[name] as string) : null;
  }
  setItem(name: string, text: string): void {
    if (PretendStore.full) throw new Error('quota exceeded');
    Object.assign(this, { [name]: text });
  }
  removeItem(name: string): void {
    Reflect.deleteProperty(this, name);
  }
  static full = false;
}

let held: string[] = [];
let leavePage = (): void => undefined;

beforeEach(() => {
  held = [];
  PretendStore.full = false;
  const locks = {
    query: () => Promise.resolve({ held: held.map((name) => ({ name })) }),
    request: (name: string) => (held.push(name), new Promise(() => undefined)),
  };
  const listen = (_: string, listener: () => void): void => void (leavePage = listener);
  const pretended = {
    localStorage: new PretendStore(),
    sessionStorage: new PretendStore(),
    navigator: { locks },
    addEventListener: listen,
  };
  for (const [name, value] of Object.entries(pretended)) Object.defineProperty(globalThis, name, { value, configurable: true });
});

function openStore(): AppStore {
  const store = createStore();
  startKeeping(store);
  store.dispatch(documentActions.opened({ id: 'one', level: level({}), revision: 1, compared: null, run: null }));
  return store;
}

test('edits are kept until they are saved; only a page that is gone gives up its own', async () => {
  const store = openStore();
  setValue(store, ['/body/speed'], 'walk speed', 5);
  setValue(store, ['/body/speed'], 'walk speed', 6);
  const [first] = store.getState().saving.unsent;
  expect(await takeUnsent('one')).toEqual([]);
  store.dispatch(savingActions.saved({ key: first!.key, revision: 2 }));
  held = [];
  expect(await takeUnsent('another')).toEqual([]);
  expect(await takeUnsent('one')).toEqual(store.getState().saving.unsent);
  // They are taken over once.
  expect(await takeUnsent('one')).toEqual([]);
});

test('what another program left there is not read, and a browser without room says so once', async () => {
  localStorage.setItem('dial.unsent.one.x', '[{"key":"short","operations":"none"}]');
  localStorage.setItem('dial.unsent.one.y', 'not JSON');
  localStorage.setItem('dial.aside.one', '{"locked":7}');
  expect([await takeUnsent('one'), readAside('one'), keptSteps('one')]).toEqual([[], { locked: [], hidden: [] }, { undo: [], redo: [] }]);
  const store = openStore();
  PretendStore.full = true;
  setValue(store, ['/body/speed'], 'walk speed', 5);
  expect(store.getState().view.trouble).toContain('cannot keep edits while they are on their way');
});

test('the newest steps to undo outlive the page, as many as there is room for', () => {
  const store = openStore();
  for (let speed = 1; speed <= 130; speed += 1) setValue(store, ['/body/speed'], `speed ${String(speed)}`, speed);
  undo(store);
  leavePage();
  const steps = keptSteps('one');
  expect([steps.undo.length, steps.undo.at(-1)?.label, steps.redo[0]?.label]).toEqual([100, 'speed 129', 'speed 130']);
});

test('what is locked or hidden is remembered for the level, together or taken back together', () => {
  const store = openStore();
  store.dispatch(viewActions.selected({ placements: ['a', 'b/c'], solid: null }));
  toggleLocked(store);
  toggleHidden(store);
  expect(readAside('one')).toEqual({ locked: ['/placements/a', '/placements/b~1c'], hidden: ['/placements/a', '/placements/b~1c'] });
  expect([...idsIn(readAside('one').locked, 'placements')]).toEqual(['a', 'b/c']);
  store.dispatch(viewActions.selected({ placements: ['a', 'd'] }));
  toggleLocked(store);
  expect(readAside('one').locked).toHaveLength(3);
  toggleLocked(store);
  showAll(store);
  expect(readAside('one')).toEqual({ locked: ['/placements/b~1c'], hidden: [] });
});
