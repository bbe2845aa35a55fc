import { basin, level, play, pressed, vent } from '../../../core/testing/levels.ts';
import { documentActions } from '../slices/document.ts';
import { simulatedActions } from '../slices/simulated.ts';
import { viewActions } from '../slices/view.ts';
import { runTried } from './startFrom.ts';
import { createStore, type AppStore, type RootState } from '../store.ts';

const stated = { name: 'hurt', order: 1, meters: { health: 30 }, items: {}, held: null, at: null, checkpoint: null, shieldSeconds: 0 };
const works = level({
  kinds: { vent, basin: { ...basin, name: 'basin' } },
  placements: { vent: { kind: 'vent', x: 8, y: 10 }, basin: { kind: 'basin', x: 16, y: 10 } },
  tries: { hurt: stated },
});
const run = pressed(60, [5, 1, 0]);
function opened(): AppStore {
  const store = createStore();
  const drawn = { id: 'run', run: { ...run, marks: ['0000000000000000'] } };
  store.dispatch(documentActions.opened({ id: 'one', level: works, revision: 1, compared: null, run: drawn }));
  return store;
}

test('a run is tried as recorded, or from the state that was chosen: the same run for the same choice, without the marks of the recording', () => {
  const store = opened();
  const recorded = store.getState().simulated.run?.run;
  expect(runTried(store.getState())).toBe(recorded);
  store.dispatch(simulatedActions.startFromChosen('hurt'));
  const chosen: RootState = store.getState();
  const tried = runTried(chosen);
  expect(tried).toMatchObject({ start: { meters: { health: 30 } }, marks: [], players: run.players });
  expect(runTried({ ...chosen })).toBe(tried);
  expect(play(works, tried!).recording.meters['health']![0]).toBe(30);
  // Turned while it is chosen, the state counts as it is turned.
  const turning = { ...works, tries: { hurt: { ...stated, meters: { health: 44 } } } };
  expect(runTried({ ...chosen, document: { ...chosen.document, turning } })?.start?.meters).toEqual({ health: 44 });
  expect(runTried({ ...chosen, simulated: { ...chosen.simulated, startFrom: 'gone' } })).toBe(recorded);
  store.dispatch(simulatedActions.startFromChosen(null));
  expect(runTried(store.getState())).toBe(recorded);
});

test('under the Plan: one sort of evidence at a time, the Strip when it is asked for again', () => {
  const store = opened();
  const toggled = (evidence: 'ledger' | 'ghost'): string => {
    store.dispatch(viewActions.evidenceToggled(evidence));
    return store.getState().view.evidence;
  };
  expect([toggled('ledger'), toggled('ghost'), toggled('ghost'), toggled('ghost')]).toEqual(['ledger', 'ghost', 'strip', 'ghost']);
});
