import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseLevelText, type Level } from '../level/index.ts';
import { parseRunText } from '../formats/index.ts';
import type { Run } from '../players/index.ts';
import { basin, box, kind, level, meterEffect, pressed, shard, vent } from './levels.ts';

/** Sessions whose digests are kept in digests.json: every engine must come to the same. */
export interface DigestSession {
  readonly name: string;
  readonly level: Level;
  readonly run: Run;
}

const read = (file: string): string => readFileSync(join(process.cwd(), 'demo', file), 'utf8');

/** Every run of the demo levels. */
function demoSessions(): DigestSession[] {
  return readdirSync(join(process.cwd(), 'demo'))
    .sort()
    .flatMap((folder) =>
      readdirSync(join(process.cwd(), 'demo', folder, 'runs'))
        .sort()
        .map((file): DigestSession => {
          const level = parseLevelText(read(`${folder}/level.json`));
          const run = parseRunText(read(`${folder}/runs/${file}`));
          if (!level.ok || !run.ok) throw new Error(`the demo ${folder} is not valid`);
          return { name: `${level.value.name}, ${run.value.name}`, level: level.value, run: run.value };
        }),
    );
}

const turnedBox = { ...box(5, 1.5), body: { type: 'box', width: 5, height: 1.5, rotation: 33 } };

const crossing = level({
  solids: { wall: { x: 20, y: 4, width: 1, height: 11 }, post: { x: 30, y: 9, width: 0.5, height: 0.5 } },
  kinds: {
    shard,
    basin,
    vent,
    sweeper: { ...kind(turnedBox, { setOffBy: { type: 'arriving' }, effects: meterEffect('health', 'take', 7.3) }), tags: ['rover'] },
    drip: kind(turnedBox, { setOffBy: { type: 'inside' }, effects: meterEffect('score', 'add', 3.7) }),
  },
  paths: {
    round: {
      name: 'round',
      speed: 3.3,
      round: 'loop',
      wayPoints: [
        { x: 5, y: 5 },
        { x: 25, y: 13, pause: 0.37 },
        { x: 12, y: 16 },
      ],
    },
  },
  placements: {
    a: { kind: 'shard', x: 8, y: 10.2 },
    b: { kind: 'basin', x: 14, y: 12 },
    c: { kind: 'vent', x: 12, y: 9 },
    d: { kind: 'sweeper', x: 0, y: 0, travel: { path: 'round', startOffset: 1.1 } },
    e: { kind: 'drip', x: 27, y: 15.5 },
  },
});

export function digestSessions(): DigestSession[] {
  const pieces: [number, number, number][] = [
    [4, 1, 0.3],
    [3, -0.4, 1],
    [2, 0, -1],
    [6, 1, 1],
    [5, 1, -0.2],
    [3, -1, 0],
  ];
  return [
    ...demoSessions(),
    { name: 'walls, turned boxes and a patrol', level: crossing, run: pressed(60, ...pieces) },
    { name: 'the same at 240 steps a second', level: { ...crossing, rate: 240 }, run: pressed(240, ...pieces) },
  ];
}

/** The digests on file, by name. */
export function keptDigests(): { readonly simulation: number; readonly digests: Readonly<Record<string, string>> } {
  return JSON.parse(readFileSync(join(process.cwd(), 'core/testing/digests.json'), 'utf8')) as ReturnType<typeof keptDigests>;
}
