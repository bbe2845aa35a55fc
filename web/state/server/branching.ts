import { levelText } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { newId } from '../../browser/ids.ts';
import { api } from './api.ts';

/** Keeps a state of a level as a level of its own, named after both. Answers its id. */
export async function branchOff(level: Level, state: string): Promise<string> {
  const name = `${level.name}, ${state}`.slice(0, 80);
  return (await api.addLevel(levelText({ ...level, name }), 'copied', newId())).id;
}
