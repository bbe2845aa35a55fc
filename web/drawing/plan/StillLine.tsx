import type { ArrowConfig } from 'konva/lib/shapes/Arrow';
import type { LineConfig } from 'konva/lib/shapes/Line';
import { memo } from 'react';
import { Arrow, Line } from './konva.ts';

/** Whether all properties are the same; lists by what is in them. */
function sameLook(before: Readonly<Record<string, unknown>>, now: Readonly<Record<string, unknown>>): boolean {
  const names = Object.keys(now);
  return (
    names.length === Object.keys(before).length &&
    names.every((name) => {
      const [was, is] = [before[name], now[name]];
      if (!Array.isArray(was) || !Array.isArray(is)) return was === is;
      return was.length === is.length && was.every((value, index) => value === is[index]);
    })
  );
}

/** A line that is left alone while its points are the same numbers: given another list, Konva draws its whole layer anew. */
export const StillLine = memo(function StillLine(props: LineConfig) {
  return <Line {...props} />;
}, sameLook);

/** The same for an arrow. */
export const StillArrow = memo(function StillArrow(props: ArrowConfig) {
  return <Arrow {...props} />;
}, sameLook);
