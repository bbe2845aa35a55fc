import { createHash } from 'node:crypto';
import { PICTURE_BYTES } from '@dial/core/api';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { takeBytes } from '../bodies.ts';
import type { Queries } from '../db/queries.ts';
import { HttpProblem, notFound } from '../problems.ts';
import { errors } from './shapes.ts';

/** What each type of picture begins with, from its file format's own description. */
const BEGINNINGS: Readonly<Record<string, (bytes: Buffer) => boolean>> = {
  'image/png': (bytes) => bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])),
  'image/jpeg': (bytes) => bytes.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff])),
  'image/webp': (bytes) => bytes.subarray(0, 4).toString('latin1') === 'RIFF' && bytes.subarray(8, 12).toString('latin1') === 'WEBP',
};

const PictureHash = z.object({ hash: z.string().regex(/^[0-9a-f]{64}$/, 'the SHA-256 of the picture, in hexadecimal digits') });
const Bytes = z.instanceof(Buffer).meta({ type: 'string', format: 'binary' });

/** Pictures under the Plan, addressed by the hash of their bytes, so that what an address shows never changes. */
export const pictureRoutes =
  (queries: Queries): FastifyPluginAsyncZod =>
  async (app) => {
    takeBytes(app, Object.keys(BEGINNINGS), PICTURE_BYTES);

    app.put(
      '/api/pictures/:hash',
      {
        bodyLimit: PICTURE_BYTES,
        schema: {
          summary: 'Keep a PNG, JPEG or WebP picture under the SHA-256 of its bytes; again is harmless',
          consumes: Object.keys(BEGINNINGS),
          params: PictureHash,
          body: Bytes,
          response: { 200: PictureHash, ...errors() },
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

    const pictures = Object.fromEntries(Object.keys(BEGINNINGS).map((type) => [type, { schema: Bytes }]));
    app.get(
      '/api/pictures/:hash',
      {
        schema: {
          summary: 'A picture',
          params: PictureHash,
          response: { 200: { description: 'The picture.', content: pictures }, ...errors() },
        },
      },
      async (request, reply) => {
        const found = await queries.findPicture(request.params.hash);
        if (found === undefined) throw notFound('such picture');
        return reply
          .type(found.type)
          .header('cache-control', 'private, max-age=31536000, immutable')
          .send(Buffer.from(found.bytes)) as never;
      },
    );
  };
