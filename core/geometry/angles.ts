const QUARTER = 90;

/** Taylor series of sine on 0 … 45°, to below the last bit of a double. Radians. */
function sineSeries(angle: number): number {
  const square = angle * angle;
  let term = angle;
  let sum = angle;
  for (let order = 2; order <= 18; order += 2) {
    term = (-term * square) / (order * (order + 1));
    sum += term;
  }
  return sum;
}

function cosineSeries(angle: number): number {
  const square = angle * angle;
  let term = 1;
  let sum = 1;
  for (let order = 1; order <= 17; order += 2) {
    term = (-term * square) / (order * (order + 1));
    sum += term;
  }
  return sum;
}

const RADIANS = 3.141592653589793 / 180;

/** Cosine and sine of an angle in degrees, the same bits in every engine; exact at quarter turns. */
export function turn(degrees: number): { cos: number; sin: number } {
  const quarters = Math.round(degrees / QUARTER);
  const rest = (degrees - quarters * QUARTER) * RADIANS;
  const cos = cosineSeries(rest);
  const sin = sineSeries(rest);
  switch (((quarters % 4) + 4) % 4) {
    case 1:
      return { cos: -sin, sin: cos };
    case 2:
      return { cos: -cos, sin: -sin };
    case 3:
      return { cos: sin, sin: -cos };
    default:
      return { cos, sin };
  }
}
