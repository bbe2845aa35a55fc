/** Why something failed, fit to be said. */
export const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
