import type { Level } from '@dial/core/level';

/** How units of a level fall on a drawing surface; y turns over, since the level's points up. */
export interface PlanScale {
  readonly pixelsPerUnit: number;
  x(units: number): number;
  y(units: number): number;
}

export function fitPlan(level: Level, width: number, height: number): PlanScale {
  const pixelsPerUnit = Math.min(width / level.size.width, height / level.size.height);
  const left = (width - level.size.width * pixelsPerUnit) / 2;
  const top = (height - level.size.height * pixelsPerUnit) / 2;
  return {
    pixelsPerUnit,
    x: (units) => left + units * pixelsPerUnit,
    y: (units) => top + (level.size.height - units) * pixelsPerUnit,
  };
}
