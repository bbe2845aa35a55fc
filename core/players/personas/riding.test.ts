import { SHIPPED_PERSONAS, type Level } from '../../level/index.ts';
import { compile } from '../../session/index.ts';
import { box, kind, level, shard } from '../../testing/levels.ts';
import { outcomeOfRun, playPersonas } from '../index.ts';
import type { Station } from '../navigation/index.ts';
import { worldOf } from './world.ts';

type Stop = readonly [x: number, y: number, pause: number];

/** Two ledges over a pit that kills, a shard on the far one, and platforms three wide on paths. Seen from the side. */
function ledges(far: { readonly x: number; readonly top: number }, ...platforms: readonly (readonly Stop[])[]): Level {
  const path = (stops: readonly Stop[], at: number) => [
    `way${String(at)}`,
    { name: `way ${String(at)}`, speed: 2, round: 'back and forth', wayPoints: stops.map(([x, y, pause]) => ({ x, y, pause })) },
  ];
  const hoist = ([first]: readonly Stop[], at: number) => [
    `hoist${String(at)}`,
    { kind: 'hoist', x: first?.[0], y: first?.[1], travel: { path: `way${String(at)}` } },
  ];
  return level({
    view: 'side',
    body: { radius: 0.35, width: 0.7, height: 1.3, speed: 6, acceleration: 40, braking: 60 },
    start: { x: 3, y: 5 },
    personas: SHIPPED_PERSONAS,
    death: { returns: 'always' },
    solids: { near: { x: 0, y: 0, width: 8, height: 4 }, far: { x: far.x, y: 0, width: 60 - far.x, height: far.top } },
    kinds: {
      shard,
      pit: kind(box(far.x - 8.5, 1), { setOffBy: { type: 'arriving' }, effects: { end: { type: 'kill' } } }),
      hoist: { ...kind(box(3, 0.5), {}), rules: {}, solid: { width: 3, height: 0.5, x: 0, y: 0 } },
    },
    paths: Object.fromEntries(platforms.map(path)) as object,
    placements: {
      prize: { kind: 'shard', x: far.x + 4, y: far.top + 1 },
      pit: { kind: 'pit', x: (far.x + 8) / 2, y: 0.5 },
      ...(Object.fromEntries(platforms.map(hoist)) as object),
    },
    ends: { goals: { all: { type: 'meter', meter: 'score', value: 1 } } },
  });
}

test.each([
  [
    'across, with a rest at both ends',
    ledges({ x: 30, top: 4 }, [
      [10, 3.75, 1],
      [28, 3.75, 1],
    ]),
  ],
  [
    'across, without any rest',
    ledges({ x: 30, top: 4 }, [
      [10, 3.75, 0],
      [28, 3.75, 0],
    ]),
  ],
  [
    'up, like a lift',
    ledges({ x: 14, top: 12 }, [
      [11, 3.75, 1],
      [11, 11.75, 1],
    ]),
  ],
  [
    'round a corner',
    ledges({ x: 24, top: 12 }, [
      [10, 3.75, 0.5],
      [21, 3.75, 0],
      [21, 11.75, 0.5],
    ]),
  ],
  [
    'after another',
    ledges(
      { x: 30, top: 4 },
      [
        [10, 3.75, 1],
        [16, 3.75, 1],
      ],
      [
        [28, 3.75, 1],
        [21, 3.75, 1],
      ],
    ),
  ],
])('every persona rides a platform %s', (_, document) => {
  const compiled = compile(document);
  const plays = Object.entries(document.personas).flatMap(([id, persona]) => [1, 2].map((seed) => ({ id, persona, seed })));
  const failed = plays.flatMap(({ id, persona, seed }) => {
    const { run, endings } = playPersonas(compiled, [persona], { seed, seconds: 180 });
    const { ended, players } = outcomeOfRun(compiled, run);
    // Only a newcomer falls again and again, or waits in vain for two platforms to meet.
    const fell = (id === 'steady' || id === 'wary') && players[0]!.deaths > 0;
    const won = ended.how === 'won' || (id === 'newcomer' && endings[0] === 'gave up');
    return won && !fell ? [] : [`${id} ${String(seed)}`];
  });
  expect(failed).toEqual([]);
});

test('a platform higher than any jump is not leapt for', () => {
  const landings = (document: Level): Station[] => {
    const { terrain } = worldOf(compile(document));
    const { surfaces = [], leapsFrom = () => [] } = terrain ?? {};
    const leaps = [...surfaces.keys()].flatMap((surface) => leapsFrom(surface).map(({ from, to }) => [surfaces[from], surfaces[to]]));
    return leaps.flatMap(([from, to]) => (from?.station === null && to?.station != null ? [to.station] : []));
  };
  const reachable = ledges({ x: 30, top: 4 }, [
    [10, 3.75, 1],
    [28, 3.75, 1],
  ]);
  expect(landings(reachable)).not.toEqual([]);
  expect(
    landings(
      ledges({ x: 30, top: 4 }, [
        [10, 8.5, 1],
        [28, 8.5, 1],
      ]),
    ),
  ).toEqual([]);
});
