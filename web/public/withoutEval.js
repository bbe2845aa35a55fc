// The page's content policy allows no code from strings; Zod must not even try. Read before any module is.
globalThis.__zod_globalConfig = { jitless: true };
