import { addSolid } from '../../state/document/authoring.ts';
import { drawBox, snappedSpot, type Tool } from './tool.ts';

/** A tool that draws boxes nobody walks through; `oneWay`: only their top stops players. `height` of one made by key. Units. */
const solidsTool = (about: Pick<Tool, 'name' | 'keys' | 'says'>, oneWay: boolean, height: number): Tool => ({
  ...about,
  press(hand, { event }) {
    drawBox(hand, event, snappedSpot, (box) => {
      if (box !== null && box.width > 0 && box.height > 0) addSolid(hand.store, box, oneWay);
    });
  },
  enter({ store }, { x, y }) {
    addSolid(store, { x, y, width: 2, height }, oneWay);
  },
});

export const solidTool = solidsTool({ name: 'Solid', keys: 'S', says: 'Draw a box nobody walks through' }, false, 2);
export const oneWayTool = solidsTool({ name: 'One-way', keys: 'W', says: 'Draw a platform that only its top stops players at' }, true, 0.5);
