/** How units of a level fall on a drawing surface; y turns over, since the level's points up. */
export interface PlanScale {
  readonly pixelsPerUnit: number;
  x(units: number): number;
  y(units: number): number;
}

/** Fits a level of `levelWidth` × `levelHeight` units into a surface, whole and centred. */
export function fitPlan(levelWidth: number, levelHeight: number, width: number, height: number): PlanScale {
  const pixelsPerUnit = Math.min(width / levelWidth, height / levelHeight);
  const left = (width - levelWidth * pixelsPerUnit) / 2;
  const top = (height - levelHeight * pixelsPerUnit) / 2;
  return {
    pixelsPerUnit,
    x: (units) => left + units * pixelsPerUnit,
    y: (units) => top + (levelHeight - units) * pixelsPerUnit,
  };
}
