import { config } from 'zod';

// The page's content policy allows no code from strings; Zod must not even try. Imported before any schema is made.
config({ jitless: true });
