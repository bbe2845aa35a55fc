import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';

const Holder = z.object({ pid: z.int().positive(), started: z.string() });
type Holder = z.infer<typeof Holder>;

/** The folder is in use by another server. */
export class FolderInUse extends Error {
  constructor(folder: string, pid: number) {
    super(
      `Dial is already running on ${folder} (process ${String(pid)}). Nothing was changed. ` +
        'Use the address it printed, stop it first, or give this one another folder with DIAL_DATA.',
    );
    this.name = 'FolderInUse';
  }
}

/** When a process started, as the system tells it; a process id alone may have been given to another one since. */
function startOf(pid: number): string | undefined {
  try {
    if (process.platform === 'linux') {
      // Field 22 of /proc/PID/stat, counted after the command name, which may hold spaces.
      const stat = readFileSync(`/proc/${String(pid)}/stat`, 'utf8');
      return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19];
    }
    return execFileSync('ps', ['-o', 'lstart=', '-p', String(pid)], { encoding: 'utf8' }).trim();
  } catch {
    return undefined; // There is no such process.
  }
}

function readHolder(file: string): Holder | undefined {
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    return undefined; // There is no lock.
  }
  const parsed = Holder.safeParse(text === '' ? undefined : JSON.parse(text));
  return parsed.success ? parsed.data : { pid: 0, started: '' };
}

const isAlive = (holder: Holder): boolean => holder.pid > 0 && startOf(holder.pid) === holder.started;

/**
 * Takes the folder for this process, or throws `FolderInUse`. The database itself would not notice a second process
 * and lose rows. A lock left by a process that is gone is taken over. Returns the release.
 */
export function lockFolder(folder: string): () => void {
  mkdirSync(folder, { recursive: true });
  const file = join(folder, 'dial.lock');
  const own: Holder = { pid: process.pid, started: startOf(process.pid) ?? '' };
  for (let attempt = 0; attempt < 5; attempt += 1) {
    try {
      writeFileSync(file, JSON.stringify(own), { flag: 'wx' });
      return () => {
        rmSync(file, { force: true });
      };
    } catch (error) {
      if (!(error instanceof Error && 'code' in error && error.code === 'EEXIST')) throw error;
    }
    const holder = readHolder(file);
    if (holder === undefined) continue;
    if (isAlive(holder)) throw new FolderInUse(folder, holder.pid);
    // Moved aside rather than deleted: if another start took over in between, what was moved is its lock, and goes back.
    const aside = `${file}.${String(process.pid)}`;
    renameSync(file, aside);
    const moved = readHolder(aside);
    if (moved !== undefined && isAlive(moved)) {
      renameSync(aside, file);
      throw new FolderInUse(folder, moved.pid);
    }
    rmSync(aside, { force: true });
  }
  throw new Error(`the lock of ${folder} keeps changing; try again`);
}
