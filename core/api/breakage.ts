/** Something that may break down for good while answers of it are waited for. */
export interface Breakage {
  /** It broke down: whoever waits is told, and whoever asks from now on. */
  happen(error: Error): void;
  /** An answer, or the error it broke down with, whichever is first. */
  orElse<Answer>(answer: PromiseLike<Answer>): Promise<Answer>;
}

/**
 * Watches over answers of something that may break down. `Promise.race` against one promise that says so would not do:
 * that promise would hold every answer it was ever raced with, for as long as nothing breaks.
 */
export function createBreakage(): Breakage {
  const waiting = new Set<(error: Error) => void>();
  let broken: Error | null = null;
  return {
    happen(error) {
      broken ??= error;
      for (const reject of waiting) reject(error);
      waiting.clear();
    },
    orElse: (answer) =>
      new Promise((resolve, reject) => {
        if (broken === null) waiting.add(reject);
        else reject(broken);
        const settled = (): void => void waiting.delete(reject);
        answer.then(
          (value) => {
            settled();
            resolve(value);
          },
          (error: unknown) => {
            settled();
            reject(error instanceof Error ? error : new Error(String(error)));
          },
        );
      }),
  };
}
