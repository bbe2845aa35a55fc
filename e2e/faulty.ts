import { readFileSync } from 'node:fs';

export interface Document {
  kinds: Record<string, { rules: Record<string, { who: object; provided: object }> }>;
  points: object;
  meant: object;
}

/** The demo with three mistakes: shards that wait for nobody, a tin that is swallowed at full, a point that nobody needs. */
export function faulty(): Document {
  const level = JSON.parse(readFileSync('demo/night-firing/level.json', 'utf8')) as Document;
  const rule = (kind: string) => Object.values(level.kinds[kind]!.rules)[0]!;
  rule('tile-shard').who = { any: ['plaier'], none: [] };
  rule('salve-tin').provided = {};
  return { ...level, points: { ...level.points, lost: { name: 'lost', order: 9, x: 3, y: 3 } } };
}
