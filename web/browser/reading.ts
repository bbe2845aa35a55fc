import type { z } from 'zod';

/** What a text from outside says, when it is JSON of the sort wanted; undefined when it is not, or there is none. */
export function readText<Value>(text: string | null, schema: z.ZodType<Value>): Value | undefined {
  if (text === null) return undefined;
  try {
    return schema.safeParse(JSON.parse(text)).data;
  } catch (error) {
    if (error instanceof SyntaxError) return undefined;
    throw error;
  }
}
