import { SMALL_BYTES } from '@dial/core/api';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { z } from 'zod';
import { readJson } from './checking/reading.ts';
import { refusal } from './checking/refusal.ts';

/** Reads small bodies of JSON; sorts of bodies that no route takes are refused. */
export function readSmallBodies(app: FastifyInstance): void {
  app.removeAllContentTypeParsers();
  app.addContentTypeParser<Buffer>('application/json', { parseAs: 'buffer', bodyLimit: SMALL_BYTES }, (_, body, done) => {
    const read = readJson(body);
    if (read.ok) done(null, read.value);
    else done(refusal(read));
  });
}

/** Hands bodies of JSON on as the bytes that came: they are checked in a thread of their own. */
export function takeBytes(app: FastifyInstance, types: string | string[], bodyLimit: number): void {
  app.removeAllContentTypeParsers();
  app.addContentTypeParser<Buffer>(types, { parseAs: 'buffer', bodyLimit }, (_, body, done) => done(null, body));
}

/** A body that is taken as bytes, described as what they are to hold. */
export const bytesOf = (schema: string) =>
  z.instanceof(Buffer, { error: 'a body is wanted' }).meta({ $ref: `#/components/schemas/${schema}` });

/** Sends what is JSON already, with documents in it that nobody here has read. */
export const sendJson = (reply: FastifyReply, text: string): FastifyReply => reply.type('application/json; charset=utf-8').send(text);

/** An entry as JSON, with a document put into it as one more field. */
export const withDocument = (entry: object, field: string, document: string): string =>
  `${JSON.stringify(entry).slice(0, -1)},"${field}":${document}}`;
