/** Says how far a long run of a test has come; a short one says nothing. */
export function progress(done: number, of: number, what: string): void {
  if (process.env['DIAL_TEST_MINUTES'] !== undefined) process.stderr.write(`${String(done)} of ${String(of)} ${what}\n`);
}
