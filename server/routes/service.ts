import { Health } from '@dial/core/api';
import { statfs } from 'node:fs/promises';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Database } from '../db/database.ts';
import type { Queries } from '../db/queries.ts';
import { errors } from './shapes.ts';

/** With less room than this the disk is called nearly full. */
export const SCARCE_BYTES = 300 * 1024 * 1024;

/** Room left where a folder is, in bytes. */
export async function freeBytes(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}

/** About the server itself: whether it is well, and a backup of all it holds. */
export const serviceRoutes =
  (queries: Queries, database: Database, folder: string): FastifyPluginAsyncZod =>
  async (app) => {
    app.get(
      '/api/health',
      { schema: { summary: 'Whether the server and its database answer, and the disk has room', response: { 200: Health, ...errors() } } },
      async () => {
        await queries.ping();
        const free = await freeBytes(folder);
        return {
          ok: true as const,
          database: 'answers' as const,
          disk: { freeBytes: free, state: free < SCARCE_BYTES ? ('nearly full' as const) : ('roomy' as const) },
        };
      },
    );

    app.get(
      '/api/backup',
      {
        schema: {
          summary: 'All that is kept, as one file for `dial-server restore`',
          response: {
            200: { description: 'A gzipped tar.', content: { 'application/gzip': { schema: z.string().meta({ format: 'binary' }) } } },
            ...errors(),
          },
        },
      },
      async (_, reply) =>
        reply
          .type('application/gzip')
          .header('cache-control', 'no-store')
          .send(Buffer.from(await database.dump()) as never) as never,
    );
  };
