import { JsonPatch, ProblemDetails } from '@dial/core/api';
import { Level } from '@dial/core/level';
import { Run } from '@dial/core/players';
import { Summary } from '@dial/core/studies';
import { z } from 'zod';
import type { FastifyDynamicSwaggerOptions } from '@fastify/swagger';
import { jsonSchemaTransform } from 'fastify-type-provider-zod';

/** A schema as OpenAPI 3.1 holds it among its components. */
function component(schema: z.ZodType, io: 'input' | 'output'): object {
  const whole: Record<string, unknown> = z.toJSONSchema(schema, { target: 'draft-2020-12', io, unrepresentable: 'any' });
  delete whole['$schema'];
  return whole;
}

/** The description of the API, made of the schemas that check it. */
export const openApi = (withToken: boolean): FastifyDynamicSwaggerOptions => ({
  openapi: {
    openapi: '3.1.0',
    info: { title: 'Dial', version: '1', description: 'Levels, versions, runs, studies and pictures.' },
    components: {
      securitySchemes: {
        token: { type: 'http', scheme: 'bearer', description: 'The token of the server, where it was started with one.' },
        session: { type: 'apiKey', in: 'cookie', name: 'dial-session', description: 'A page that has signed in.' },
      },
    },
    security: withToken ? [{ token: [] }, { session: [] }] : [],
  },
  transform: jsonSchemaTransform,
  transformObject: (document) => {
    if (!('openapiObject' in document)) return document.swaggerObject;
    const { openapiObject } = document;
    const schemas = {
      Level: component(Level, 'output'),
      LevelFile: component(Level, 'input'),
      Run: component(Run, 'output'),
      RunFile: component(Run, 'input'),
      JsonPatch: component(JsonPatch, 'input'),
      Summary: component(Summary, 'output'),
      ProblemDetails: component(ProblemDetails, 'output'),
    };
    return {
      ...openapiObject,
      components: { ...openapiObject.components, schemas: { ...openapiObject.components?.schemas, ...schemas } },
    } as never;
  },
});
