import { createHash } from 'node:crypto';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { Queries } from '../db/queries.ts';
import { HttpProblem, notFound } from '../problems.ts';

const PICTURE_BYTES = 8 * 1024 * 1024;

/** What each type of picture begins with, from its file format's own description. */
const BEGINNINGS: Readonly<Record<string, (bytes: Buffer) => boolean>> = {
  'image/png': (bytes) => bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])),
  'image/jpeg': (bytes) => bytes.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff])),
  'image/webp': (bytes) => bytes.subarray(0, 4).toString('latin1') === 'RIFF' && bytes.subarray(8, 12).toString('latin1') === 'WEBP',
};

const PictureHash = z.object({ hash: z.string().regex(/^[0-9a-f]{64}$/, 'the SHA-256 of the picture, in hexadecimal digits') });

/** Pictures under the Plan, addressed by the hash of their bytes, so that what an address shows never changes. */
export const pictureRoutes =
  (queries: Queries): FastifyPluginAsyncZod =>
  async (app) => {
    app.addContentTypeParser(Object.keys(BEGINNINGS), { parseAs: 'buffer', bodyLimit: PICTURE_BYTES }, (_, body, done) => done(null, body));

    app.put(
      '/api/pictures/:hash',
      {
        bodyLimit: PICTURE_BYTES,
        schema: {
          summary: 'Keep a PNG, JPEG or WebP picture under the SHA-256 of its bytes; again is harmless',
          consumes: Object.keys(BEGINNINGS),
          params: PictureHash,
          body: z.instanceof(Buffer).meta({ type: 'string', format: 'binary' }),
          response: { 200: PictureHash },
        },
      },
      async (request) => {
        const { hash } = request.params;
        const type = Object.keys(BEGINNINGS).find((one) => BEGINNINGS[one]?.(request.body));
        if (type === undefined) throw new HttpProblem(422, 'Not a picture', 'This is not a PNG, JPEG or WebP picture. Nothing was kept.');
        if (createHash('sha256').update(request.body).digest('hex') !== hash) {
          throw new HttpProblem(422, 'Not this picture', 'The picture is not the one its address names. Nothing was kept.');
        }
        await queries.insertPicture(hash, type, request.body);
        return { hash };
      },
    );

    app.get('/api/pictures/:hash', { schema: { summary: 'A picture', params: PictureHash } }, async (request, reply) => {
      const found = await queries.findPicture(request.params.hash);
      if (found === undefined) throw notFound('such picture');
      return reply.type(found.type).header('cache-control', 'private, max-age=31536000, immutable').send(Buffer.from(found.bytes));
    });
  };
