import { basin, level, play, pressed, vent } from '../../core/testing/levels.ts';
import { benchActions, benchReducer } from './bench.ts';
import { runTried } from './startFrom.ts';

const stated = { name: 'hurt', order: 1, meters: { health: 30 }, items: {}, held: null, at: null, checkpoint: null, shieldSeconds: 0 };
const works = level({
  kinds: { vent, basin: { ...basin, name: 'basin' } },
  placements: { vent: { kind: 'vent', x: 8, y: 10 }, basin: { kind: 'basin', x: 16, y: 10 } },
  tries: { hurt: stated },
});
const run = pressed(60, [5, 1, 0]);
const opened = benchReducer(
  undefined,
  benchActions.opened({
    id: 'one',
    level: works,
    revision: 1,
    compared: null,
    runs: [],
    run: { id: 'run', run: { ...run, marks: ['0000000000000000'] } },
  }),
);

test('a run is tried as recorded, or from the state that was chosen: the same run for the same choice, without the marks of the recording', () => {
  expect(runTried(opened)).toBe(opened.open?.run?.run);
  const chosen = benchReducer(opened, benchActions.startFromChosen('hurt'));
  const tried = runTried(chosen);
  expect(tried).toMatchObject({ start: { meters: { health: 30 } }, marks: [], players: run.players });
  expect(runTried({ ...chosen })).toBe(tried);
  expect(play(works, tried!).recording.meters['health']![0]).toBe(30);
  // Turned while it is chosen, the state counts as it is turned.
  const turning = { ...works, tries: { hurt: { ...stated, meters: { health: 44 } } } };
  expect(runTried({ ...chosen, turning })?.start?.meters).toEqual({ health: 44 });
  expect(runTried(benchReducer(chosen, benchActions.startFromChosen(null)))).toBe(opened.open?.run?.run);
  expect(runTried({ ...chosen, startFrom: 'gone' })).toBe(opened.open?.run?.run);
});

test('under the Plan: one sort of evidence at a time, the Strip when it is asked for again', () => {
  const ledger = benchReducer(opened, benchActions.evidenceToggled('ledger'));
  const ghost = benchReducer(ledger, benchActions.evidenceToggled('ghost'));
  expect([ledger.evidence, ghost.evidence, benchReducer(ghost, benchActions.evidenceToggled('ghost')).evidence]).toEqual([
    'ledger',
    'ghost',
    'strip',
  ]);
  const listed = benchReducer(ghost, benchActions.runsListed([{ id: 'run', name: 'run', starred: true, seconds: 5, createdAt: '' }]));
  expect([listed.open?.runs.length, listed.open?.run, listed.evidence]).toEqual([1, opened.open?.run, 'ghost']);
});
