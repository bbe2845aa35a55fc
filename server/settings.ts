import { fileURLToPath } from 'node:url';
import { z } from 'zod';

export const at = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

const Environment = z.object({
  DIAL_HOST: z.string().min(1, 'is empty: leave it out, or name an address').default('127.0.0.1'),
  DIAL_PORT: z.coerce.number().int().min(0).max(65535).default(4310),
  DIAL_DATA: z.string().trim().min(1, 'is empty: leave it out, or name a folder').default(at('../../data')),
  DIAL_CALLS: z.coerce.number().int().min(60).default(60_000),
  DIAL_TOKEN: z.string().min(16, 'at least 16 characters').max(500).regex(/^\S+$/, 'must have no spaces').optional(),
});

export interface Settings {
  readonly host: string;
  readonly port: number;
  readonly folder: string;
  readonly token: string | undefined;
  /** Calls of the API that one address may make in a minute. */
  readonly callsAMinute: number;
}

/** Settings out of the environment; throws with a sentence when one cannot be used. */
export function readSettings(environment: NodeJS.ProcessEnv): Settings {
  const read = Environment.safeParse(environment);
  if (!read.success) throw new Error(read.error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`).join('\n'));
  const { DIAL_HOST: host, DIAL_PORT: port, DIAL_DATA: folder, DIAL_TOKEN: token, DIAL_CALLS: callsAMinute } = read.data;
  if (host !== '127.0.0.1' && token === undefined) {
    throw new Error(`DIAL_HOST=${host} would open Dial to other machines: set DIAL_TOKEN as well, or leave DIAL_HOST out.`);
  }
  return { host, port, folder, token, callsAMinute };
}
