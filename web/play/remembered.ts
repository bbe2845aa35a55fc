import { z } from 'zod';
import { lasting, remember } from '../browser/storage.ts';
import { readText } from '../browser/reading.ts';

const SOUND = 'dial.sound';
const Sound = z.object({ muted: z.boolean(), volume: z.number().min(0).max(1) });
export type Sound = z.infer<typeof Sound>;

/** How loud it plays, as it was set here last. */
export const readSound = (): Sound => readText(lasting.get(SOUND), Sound) ?? { muted: false, volume: 0.6 };
export const keepSound = (sound: Sound): void => remember(SOUND, JSON.stringify(sound));

const watchedKey = (level: string): string => `dial.watched.${level}`;
const Keys = z.array(z.string().max(120)).max(100);

/** The keys of the values that are watched while this level is played. */
export const readWatched = (level: string): readonly string[] => readText(lasting.get(watchedKey(level)), Keys) ?? [];
export const keepWatched = (level: string, keys: readonly string[]): void => remember(watchedKey(level), JSON.stringify(keys));
