import { clockTime } from '@dial/core/formats';
import { entry, inOrder, tryOf, type Level } from '@dial/core/level';
import { playPersonas, simulate } from '@dial/core/players';
import { compile } from '@dial/core/session';
import { crowdOfTarget, type CrowdSettings } from '@dial/core/studies';
import type { ChartLine, LinesSpec, Panel } from '../../charts/spec.ts';

/** Points a second: enough to see every jump, few enough to be drawn at once. */
const A_SECOND = 10;

/** One session of a crowd: its first player's first, with the meters that are shown. */
interface Played {
  readonly seconds: number;
  readonly meters: Readonly<Record<string, ChartLine['points']>>;
}

function played(level: Level, { personas: [first], seconds, seed, start }: CrowdSettings): Played | null {
  const persona = first === undefined ? undefined : entry(level.personas, first.persona);
  if (persona === undefined) return null;
  const compiled = compile(level);
  const { run } = playPersonas(compiled, [persona], { seed, seconds, start: start === null ? null : tryOf(level, start) });
  const { meters, rate, steps } = simulate(compiled, run);
  const every = Math.max(1, Math.round(rate / A_SECOND));
  const points = (values: Float32Array): [number, number][] =>
    Array.from({ length: Math.floor(steps / every) + 1 }, (_, nth) => [(nth * every) / rate, values[nth * every] ?? 0]);
  return { seconds: steps / rate, meters: Object.fromEntries(Object.entries(meters).map(([id, values]) => [id, points(values)])) };
}

/** One and the same session of a target's players on the level as it is and with other settings: its meters over time. */
export function besideSpec(level: Level, turned: Level, name: string): LinesSpec | null {
  const target = inOrder(level.targets)[0]?.[1];
  const crowd = target === undefined ? null : crowdOfTarget(level, target);
  const [now, then] = crowd === null ? [null, null] : [played(level, crowd), played(turned, crowd)];
  if (now === null || then === null) return null;
  const panels = inOrder(level.meters).flatMap(([id, meter]): Panel[] => {
    const [a = [], b = []] = [now.meters[id], then.meters[id]];
    const values = [...a, ...b].map(([, value]) => value);
    // What stays as it is in both says nothing.
    if (values.every((value) => value === values[0])) return [];
    return [
      {
        name: meter.name,
        low: meter.lower,
        high: meter.upper ?? Math.max(1, ...values),
        lines: [
          { name: 'now', points: a },
          { name, points: b },
        ],
      },
    ];
  });
  const who = crowd?.personas[0]?.persona ?? '';
  return {
    kind: 'lines',
    label: `One session of ${entry(level.personas, who)?.name ?? who}, now and with “${name}”`,
    panels,
    x: { name: 'time', low: 0, high: Math.max(1, now.seconds, then.seconds), words: (x) => clockTime(x) },
  };
}
