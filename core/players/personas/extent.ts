import { CIRCLE, type Box } from '../../geometry/index.ts';
import type { Compiled } from '../../session/index.ts';

/** The upright box around all shapes of a form, from the place of its thing; null when it has none. Units. */
export function extentOf({ forms, shapes }: Compiled, form: number): Box | null {
  let [left, bottom, right, top] = [Infinity, Infinity, -Infinity, -Infinity];
  const cover = (x: number, y: number, around: number): void => {
    left = Math.min(left, x - around);
    bottom = Math.min(bottom, y - around);
    right = Math.max(right, x + around);
    top = Math.max(top, y + around);
  };
  for (let shape = forms.shapeStart[form] as number; shape < (forms.shapeStart[form + 1] as number); shape += 1) {
    const [x, y] = [shapes.x[shape] as number, shapes.y[shape] as number];
    if (shapes.type[shape] === CIRCLE) cover(x, y, shapes.a[shape] as number);
    else {
      for (let corner = shapes.cornerStart[shape] as number; corner < (shapes.cornerStart[shape + 1] as number); corner += 1) {
        cover(x + (shapes.cornerX[corner] as number), y + (shapes.cornerY[corner] as number), 0);
      }
    }
  }
  return left > right ? null : { left, bottom, right, top };
}

/** Where the middle of a body touches the shapes of a thing that stays; null when it has none. Units. */
export function touchBoxOf(compiled: Compiled, placement: number): Box | null {
  const { placements, hull } = compiled;
  const extent = extentOf(compiled, placements.form[placement] as number);
  if (extent === null) return null;
  const [x, y] = [placements.x[placement] as number, placements.y[placement] as number];
  const [aside, above] = [hull.halfWidth + hull.radius, hull.halfHeight + hull.radius];
  return {
    left: x + extent.left - aside,
    bottom: y + extent.bottom - above,
    right: x + extent.right + aside,
    top: y + extent.top + above,
  };
}
