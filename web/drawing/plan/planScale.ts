/** How units of a level fall on a drawing surface; y turns over, since the level's points up. */
export interface PlanScale {
  readonly pixelsPerUnit: number;
  x(units: number): number;
  y(units: number): number;
}

/** How much nearer than fitted in whole, and by how many pixels shifted. */
export interface PlanView {
  readonly zoom: number;
  readonly x: number;
  readonly y: number;
}

export const WHOLE: PlanView = { zoom: 1, x: 0, y: 0 };

/** Fits a level of `levelWidth` × `levelHeight` units into a surface, whole and centred, or as a view has it; with room around it, in pixels. */
export function fitPlan(levelWidth: number, levelHeight: number, width: number, height: number, view = WHOLE, room = 0): PlanScale {
  const within = (size: number): number => Math.max(size / 2, size - 2 * room);
  const pixelsPerUnit = Math.min(within(width) / levelWidth, within(height) / levelHeight) * view.zoom;
  const left = (width - levelWidth * pixelsPerUnit) / 2 + view.x;
  const top = (height - levelHeight * pixelsPerUnit) / 2 + view.y;
  return {
    pixelsPerUnit,
    x: (units) => left + units * pixelsPerUnit,
    y: (units) => top + (levelHeight - units) * pixelsPerUnit,
  };
}

/** A view zoomed by a factor about a place of the surface, which stays where it is. Pixels from the middle of the surface. */
export function zoomed(view: PlanView, factor: number, aboutX: number, aboutY: number): PlanView {
  const zoom = Math.max(0.5, Math.min(40, view.zoom * factor));
  const by = zoom / view.zoom;
  return { zoom, x: aboutX - (aboutX - view.x) * by, y: aboutY - (aboutY - view.y) * by };
}
