import { canBeMoved, chosenThings, moveSelection, previewMove, type PlanBox } from '../../state/document/authoring.ts';
import { documentActions } from '../../state/slices/document.ts';
import { viewActions } from '../../state/slices/view.ts';
import type { PlanSpot } from '../../state/document/spots.ts';
import { placeTool } from './place.ts';
import { follow, snapped } from './planPointer.ts';
import { drawBox, spotOf, type Hand, type Press, type Tool } from './tool.ts';

/** Moves what is chosen along with the pointer; `pressed` is told when it was only pressed. */
function drag(hand: Hand, event: MouseEvent, pressed: () => void = () => undefined): void {
  const { store } = hand;
  const from = spotOf(hand, event);
  const { selection: chosen } = store.getState().view;
  const { open } = store.getState().document;
  const gone = (to: PointerEvent): PlanSpot => {
    const at = spotOf(hand, to);
    return { x: snapped(at.x - from.x, to.altKey), y: snapped(at.y - from.y, to.altKey) };
  };
  follow(
    event,
    (to) => {
      hand.setDragged(open === null ? [] : chosen.placements.filter((id) => canBeMoved(open.level, id)));
      const { x, y } = gone(to);
      previewMove(store, x, y);
    },
    (to, moved) => {
      hand.setDragged([]);
      const { x, y } = gone(to);
      if (moved) moveSelection(store, x, y);
      else pressed();
    },
    () => {
      hand.setDragged([]);
      store.dispatch(documentActions.turned(null));
    },
  );
}

/** Chooses the things that are shown within a box. */
function chooseWithin({ store, hiddenThings }: Hand, { level }: Press, box: PlanBox | null): void {
  const within = ({ x, y }: PlanSpot): boolean =>
    box !== null && x >= box.x && x <= box.x + box.width && y >= box.y && y <= box.y + box.height;
  const ids = Object.entries(level.placements).flatMap(([id, spot]) => (!hiddenThings.has(id) && within(spot) ? [id] : []));
  store.dispatch(viewActions.selected(chosenThings(level, ids)));
}

function choosePlacement(hand: Hand, { event, level, chosen }: Press, placement: string): void {
  const had = chosen.placements.includes(placement);
  const others = chosen.placements.filter((id) => id !== placement);
  const next = event.shiftKey ? (had ? others : [...others, placement]) : had ? chosen.placements : [placement];
  hand.store.dispatch(viewActions.selected(chosenThings(level, next)));
  if (next.includes(placement)) drag(hand, event);
}

const SAYS = 'Choose things, drag them, or draw a box around some';

export const selectTool: Tool = {
  name: 'Select',
  keys: 'V',
  says: SAYS,
  // Who has made or chosen a kind may mean to place it.
  hint: ({ name, chosen }) =>
    name === undefined || chosen > 0 ? SAYS : `To place ${name}, drag it out of the Tray, or press ${placeTool.keys}`,
  press(hand, press) {
    const { event, on, pile } = press;
    const { placement, spot, solid } = on;
    const beneath = hand.pressedAgain(event, pile);
    if (beneath !== null) drag(hand, event, beneath);
    else if (placement !== undefined) choosePlacement(hand, press, placement);
    else if (spot !== undefined || solid !== undefined) {
      hand.store.dispatch(viewActions.selected(spot === undefined ? { solid: solid ?? null } : { spot }));
      drag(hand, event);
    } else drawBox(hand, event, spotOf, (box) => chooseWithin(hand, press, box));
  },
};
