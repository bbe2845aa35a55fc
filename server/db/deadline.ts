/** A statement was not answered in time; whether it was done is not known. */
export class DatabaseLate extends Error {
  readonly code = 'DIAL_LATE';

  constructor() {
    super('The database does not answer.');
    this.name = 'DatabaseLate';
  }
}

/** An answer within a time, or `DatabaseLate`. */
export async function within<Value>(promise: Promise<Value>, milliseconds: number): Promise<Value> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new DatabaseLate()), milliseconds);
  });
  return Promise.race([promise, late]).finally(() => clearTimeout(timer));
}
