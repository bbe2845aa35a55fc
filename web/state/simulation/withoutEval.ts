import { config } from 'zod';

// No code from strings in the worker either; see public/withoutEval.js. Imported before any schema is made.
config({ jitless: true });
