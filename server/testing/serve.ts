import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A real server as a process of its own, so that it can be killed. */
export interface Served {
  readonly url: string;
  readonly folder: string;
  readonly process: ChildProcess;
  /** Ends it: `SIGKILL` as a crash would, `SIGTERM` in an orderly way. */
  end(signal: NodeJS.Signals): Promise<void>;
}

export const newFolder = (): string => mkdtempSync(join(tmpdir(), 'dial-test-'));

/** What a server that would not start said, and its exit code. */
export class NotStarted extends Error {
  readonly code: number | null;

  constructor(code: number | null, message: string) {
    super(message);
    this.code = code;
  }
}

export async function serve(folder: string, env: Record<string, string> = {}): Promise<Served> {
  const child = spawn(process.execPath, [join(process.cwd(), 'server/dist/main.js')], {
    env: { ...process.env, DIAL_DATA: folder, DIAL_PORT: '0', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let errors = '';
  child.stderr.on('data', (chunk: Buffer) => {
    errors += chunk.toString();
  });
  const url = await new Promise<string>((resolve, reject) => {
    child.stdout.once('data', (chunk: Buffer) => resolve(chunk.toString().trim()));
    child.once('exit', (code) => reject(new NotStarted(code, errors)));
  });
  return {
    url,
    folder,
    process: child,
    async end(signal) {
      if (child.exitCode !== null || child.signalCode !== null) return;
      const ended = once(child, 'exit');
      child.kill(signal);
      await ended;
    },
  };
}
