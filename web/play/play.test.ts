import { basin, level, meterEffect, kind, circle } from '../../core/testing/levels.ts';
import { arriving, meter, scene } from '../../core/testing/scenes.ts';
import { simulate } from '@dial/core/players';
import { BUTTON, compile, INPUT_WIDTH } from '@dial/core/session';
import { goingOn } from '../drawing/plan/happenings.ts';
import type { Palette } from '../drawing/palette.ts';
import { flourishesOf } from './flourishes.ts';
import { startGame, type Game } from './game.ts';
import { padState, watchInputs, type Pad } from './keys.ts';
import { ownerOf, USUAL_KEYS, withKey } from './playKeys.ts';
import { watchables, watchedText } from './watching.ts';

/** A window that keys can be pressed in. */
function keyboard() {
  function None(): void {}
  Object.assign(globalThis, { HTMLInputElement: None, Element: None, HTMLTextAreaElement: None, HTMLButtonElement: None });
  const target = new EventTarget();
  const send = (type: string, code: string): void =>
    void target.dispatchEvent(Object.assign(new Event(type, { cancelable: true }), { code }));
  return {
    window: target as Window,
    down: (code: string) => send('keydown', code),
    up: (code: string) => send('keyup', code),
    blur: () => target.dispatchEvent(new Event('blur')),
  };
}

const pad = (axes: readonly number[], ...pressed: readonly number[]): Pad => ({
  axes,
  buttons: Array.from({ length: 16 }, (_, index) => ({ pressed: pressed.includes(index) })),
});

test('alone, both sets of keys are one player’s; two players have one each; a tap between two steps counts once', () => {
  const keys = keyboard();
  const inputs = new Int8Array(2 * INPUT_WIDTH);
  const alone = watchInputs(keys.window, 'side', 1, undefined, () => []);
  keys.down('KeyD');
  keys.down('ArrowUp');
  alone.read(inputs);
  expect([...inputs]).toEqual([127, 127, BUTTON.jump, BUTTON.jump, 0, 0, 0, 0]);
  keys.up('ArrowUp');
  keys.down('KeyE');
  keys.up('KeyE');
  alone.read(inputs);
  expect([...inputs.subarray(0, 4)]).toEqual([127, 0, 0, BUTTON.use]);
  alone.read(inputs);
  expect([...inputs.subarray(0, 4)]).toEqual([127, 0, 0, 0]);
  alone.stop();

  const two = watchInputs(keys.window, 'top', 2, undefined, () => [pad([0, 0]), pad([0.05, 0.5], 2)]);
  keys.down('KeyA');
  keys.down('ArrowRight');
  two.read(inputs);
  // The stick is pulled down; a key goes before a stick, and a button of the pad is pressed once while it is held.
  expect([...inputs]).toEqual([-127, 0, 0, 0, 127, -63, BUTTON.use, BUTTON.use]);
  keys.blur();
  two.read(inputs);
  expect([...inputs]).toEqual([0, 0, 0, 0, 0, -63, BUTTON.use, 0]);
  two.stop();
});

test('four players: each has keys of its own, which can be set and swap places; a gamepad plays whom it is given to', () => {
  const keys = keyboard();
  const inputs = new Int8Array(4 * INPUT_WIDTH);
  let own = { ...withKey(USUAL_KEYS, 2, 'use', 'Numpad0'), pads: [3, 2, 1, 4] };
  expect([own.players[2]?.use, own.players[3]?.jump]).toEqual(['Numpad0', 'KeyU']);
  const four = watchInputs(
    keys.window,
    'side',
    4,
    () => own,
    () => [pad([0, 0], 15)],
  );
  for (const code of ['KeyD', 'ArrowUp', 'Numpad0', 'KeyU', 'Numpad4']) keys.down(code);
  four.read(inputs);
  const { use, jump } = BUTTON;
  expect([...inputs]).toEqual([127, 0, 0, 0, 0, 127, jump, jump, 127, 0, use, use, -127, 0, jump, jump]);
  own = USUAL_KEYS;
  four.read(inputs);
  expect([...inputs]).toEqual([127, 0, 0, 0, 0, 127, jump, 0, 0, 0, use, 0, -127, 0, jump, 0]);
  four.stop();
  expect(ownerOf(own, [{ code: 'KeyZ', choice: 'leave', player: 1, by: 0 }], 'KeyZ')).toBe('the key of something from outside');
  expect([ownerOf(own, [], 'KeyR'), ownerOf(own, [], 'KeyH'), ownerOf(own, [], 'KeyZ')]).toEqual([
    'the key that begins again',
    '“jump” of player 3',
    null,
  ]);
});

test('a gamepad: a stick at rest is still, the cross is a stick pushed to its end', () => {
  expect(padState(pad([0.1, -0.1]))).toEqual({ x: 0, y: -0, held: 0 });
  expect(padState(pad([1, -1], 0))).toEqual({ x: 1, y: 1, held: BUTTON.jump });
  expect(padState(pad([0, 0], 12, 14, 1))).toEqual({ x: -1, y: 1, held: BUTTON.useHeld });
});

const walking = level({
  kinds: {
    basin,
    bell: kind(circle(0.5), {
      setOffBy: { type: 'arriving' },
      effects: { ...meterEffect('score', 'add', 5), ring: { type: 'flourish', flourish: 'bell' } },
    }),
  },
  flourishes: { bell: { name: 'bell', shape: 'ring', tone: 520, seconds: 0.8, volume: 0.6 } },
  placements: { pad: { kind: 'basin', x: 5, y: 10 }, bell: { kind: 'bell', x: 9, y: 10 } },
  tries: { hurt: { name: 'hurt', meters: { health: 30 } } },
});
const right = (inputs: Int8Array): void => void (inputs[0] = 127);
const start = { meters: { health: 30 }, items: {}, held: null, at: null, checkpoint: null, shieldSeconds: 0 };

test('as fast as the clock and the speed say; what a slow machine cannot make up for is dropped and told, not skipped', () => {
  const game = startGame(walking, { start: null, seed: 1 });
  expect(game.advance(0.1, 1, right)).toEqual({ made: 6, dropped: 0 });
  expect(game.advance(0.1, 0.25, right)).toEqual({ made: 1, dropped: 0 });
  expect(game.advance(1 / 120, 1, right).made).toBe(1);
  const late = game.advance(1.4, 1, right);
  expect([late.made, late.dropped]).toEqual([8, expect.closeTo(0.9, 2)]);
  expect(game.look().moment.step).toBe(16);
});

test('played from a stated state: healed at once, with what is seen and heard of it; the run is the very session', () => {
  const game: Game = startGame(walking, { start, seed: 7 });
  expect(game.look().moment.players[0]?.meters['health']).toBe(30);
  while (game.look().moment.seconds < 3) game.one(right);
  const run = game.run('tried');
  expect(run.seed).toBe(7);
  expect([run.start?.meters, run.branched, run.steps]).toEqual([{ health: 30 }, null, 180]);
  const lines = game.lines();
  const { moment } = game.look();
  const { shown, tones } = flourishesOf(walking, moment, lines);
  // The basin states no flourish: a number rises. The bell states a ring and its own tone, with the number of its change.
  expect(shown.map(({ shape, text, x }) => [shape, text, x])).toEqual([
    ['rising number', '+18', 5],
    ['ring', '+5', 9],
  ]);
  expect(tones).toEqual([
    { pitch: 990, seconds: 0.12, volume: 0.25 },
    { pitch: 520, seconds: 0.8, volume: 0.6 },
  ]);

  const again = startGame(walking, { from: { id: 'tried-run', run, step: 60 } });
  expect(again.look().moment.step).toBe(60);
  again.one(right);
  expect(again.run('on').branched).toEqual({ run: 'tried-run', name: 'tried', step: 60 });
  while (again.look().moment.step < 180) again.one(right);
  expect(again.run('on').marks).toEqual(run.marks);
});

test('what is let happen from outside while it is played is kept with the run; what a run had later is no part of what is played on from it', () => {
  const loss = { what: 'meter', step: 0, player: 1, meter: 'health', by: -25 } as const;
  const game = startGame(walking, { start, seed: 7 });
  const until = (one: Game, seconds: number): void => {
    while (one.look().moment.seconds < seconds) one.one(right);
  };
  until(game, 0.5);
  game.happen({ ...loss, by: -10 });
  game.happen({ ...loss, meter: 'none' });
  game.happen({ ...loss, player: 2 });
  until(game, 2);
  game.happen(loss);
  until(game, 3);
  game.happen(loss);
  const run = game.run('tried');
  // The last one never came about: no step followed it.
  expect(run.events.map(({ step }) => step)).toEqual([31, 121]);
  const replayed = simulate(compile(walking), run);
  expect([replayed.partsAtSeconds, run.marks.length]).toEqual([null, 3]);
  expect(replayed.outcome).toEqual(game.outcome());
  const on = startGame(walking, { from: { id: null, run, step: 60 } });
  until(on, 3);
  expect([on.run('on').events.map(({ step }) => step), on.look().moment.players[0]?.meters['health']]).toEqual([[31], 38]);
});

test('a number rises where it was earned, above those that rise there still; what goes on is told while it lasts', () => {
  const roams = {
    ...arriving({ gain: meter('score', 'add', 4), more: meter('score', 'add', 120) }),
    becomes: { type: 'moves', distance: 2 },
  };
  const yard = scene(
    { star: roams, ember: { setOffBy: { type: 'inside' }, effects: { burn: meter('health', 'take', 10) } } },
    { ends: { timeLimit: 5 }, placements: { ember: { kind: 'ember', x: 9, y: 10 }, star: { kind: 'star', x: 6, y: 10 } } },
  );
  const game = startGame(yard, { start: null, seed: 3 });
  let shown: ReturnType<typeof game.look>['flourishes'] = [];
  while (shown.length === 0 && !game.over()) {
    game.one(right);
    shown = game.look().flourishes;
  }
  expect(game.look().moment.placements['star']?.x).not.toBe(6);
  expect(shown.map(({ text, x, y, row }) => [text, x, y, row])).toEqual([
    ['+4', 6, 10, 0],
    ['+120', 6, 10, 1],
  ]);
  let told: string[] = [];
  while (told.length === 0 && !game.over()) {
    game.one(right);
    told = goingOn(yard, game.look().moment, { role: {} } as Palette).map(({ text }) => text);
  }
  expect(told).toEqual([expect.stringMatching(/^−0\.\d in 0(\.\d)? s$/)]);
});

test('any value of a player or a thing can be watched', () => {
  const game = startGame(walking, { start, seed: 7 });
  while (game.look().moment.seconds < 1.5) game.one(right);
  const { moment } = game.look();
  const all = watchables(walking, moment);
  expect(all.map(({ name }) => name)).toEqual(expect.arrayContaining(['health', 'score', 'speed now', 'shield']));
  expect(all.every(({ key }) => watchedText(moment, key) !== null)).toBe(true);
  expect(watchedText(moment, 'player 1 meter health')).toBe('48');
  expect(watchedText(moment, 'thing pad')).toMatch(/^resting, \d(\.\d)? s left$/);
  expect([watchedText(moment, 'thing gone'), watchedText(moment, 'player 3 place')]).toEqual([null, null]);
});
