import { closeSync, fstatSync, ftruncateSync, openSync, readFileSync, statSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { tryLock } from 'fs-native-extensions';

/** The process that holds a folder, and the address it answers at once it does. */
export interface Holder {
  readonly pid: number;
  readonly address: string | null;
}

/** The folder is in use by another server. */
export class FolderInUse extends Error {
  constructor(
    folder: string,
    readonly holder: Holder | null,
  ) {
    const who = holder === null ? '' : ` (process ${String(holder.pid)}${holder.address === null ? '' : `, ${holder.address}`})`;
    super(
      `Dial is already running on ${folder}${who}. Nothing was changed. ` +
        'Use the address it printed, stop it first, or give this one another folder with DIAL_DATA.',
    );
    this.name = 'FolderInUse';
  }
}

/** The folder was taken away, or made anew, while the server was running. */
export class FolderGone extends Error {
  constructor(folder: string) {
    super(`The data folder ${folder} was moved or deleted while Dial was running. Nothing more is written. Start Dial again.`);
    this.name = 'FolderGone';
  }
}

function readHolder(file: string): Holder | null {
  try {
    const { pid, address } = JSON.parse(readFileSync(file, 'utf8')) as Record<string, unknown>;
    if (typeof pid !== 'number') return null;
    return { pid, address: typeof address === 'string' && URL.canParse(address) ? address : null };
  } catch {
    return null; // What stands in the file is only told to people; the lock is the system's.
  }
}

export interface FolderLock {
  /** Throws `FolderGone` when the folder's lock is no longer the file that is locked. */
  stillOurs(): void;
  /** Tells others where this server answers. */
  sayAddress(address: string): void;
  release(): void;
}

/**
 * Takes the folder for this process, or throws `FolderInUse`. The database itself would not notice a second process and
 * lose rows. The lock is one on an open file: the system holds it for as long as the process lives, whatever else happens,
 * and drops it with the process. The file itself stays, so that there is never a moment in which two can make one.
 */
export function lockFolder(folder: string): FolderLock {
  const file = join(folder, 'dial.lock');
  const descriptor = openSync(file, 'a+');
  if (!tryLock(descriptor)) {
    closeSync(descriptor);
    throw new FolderInUse(folder, readHolder(file));
  }
  const { ino, dev } = fstatSync(descriptor);
  const say = (address: string | null): void => {
    ftruncateSync(descriptor);
    writeSync(descriptor, JSON.stringify({ pid: process.pid, address } satisfies Holder));
  };
  say(null);
  return {
    stillOurs() {
      const now = statSync(file, { throwIfNoEntry: false });
      if (now?.ino !== ino || now.dev !== dev) throw new FolderGone(folder);
    },
    sayAddress: say,
    release() {
      ftruncateSync(descriptor);
      closeSync(descriptor);
    },
  };
}
