import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const MAIN = join(process.cwd(), 'server/dist/main.js');
/** These servers live for seconds: what it takes to make the database's code faster would never be got back. */
const BRIEFLY = ['--wasm-tiering-budget=200000000'];

/** A real server as a process of its own, so that it can be killed. */
export interface Served {
  readonly url: string;
  readonly folder: string;
  readonly process: ChildProcess;
  /** All that it has said on standard error. */
  said(): string;
  /** Ends it: `SIGKILL` as a crash would, `SIGTERM` in an orderly way. */
  end(signal: NodeJS.Signals): Promise<void>;
}

export const newFolder = (): string => mkdtempSync(join(tmpdir(), 'dial-test-'));

/** What a server that would not start said, and its exit code. */
class NotStarted extends Error {
  readonly code: number | null;

  constructor(code: number | null, message: string) {
    super(message);
    this.code = code;
  }
}

interface Start {
  readonly env?: Record<string, string>;
  /** A command to run node with, such as one that gives it a namespace of its own. */
  readonly within?: readonly string[];
}

export async function serve(folder: string, { env = {}, within = [] }: Start = {}): Promise<Served> {
  const [program = process.execPath, ...args] = within;
  const child = spawn(program, [...args, ...(within.length > 0 ? [process.execPath] : []), ...BRIEFLY, MAIN], {
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
    said: () => errors,
    async end(signal) {
      if (child.exitCode !== null || child.signalCode !== null) return;
      const ended = once(child, 'exit');
      child.kill(signal);
      await ended;
    },
  };
}

/** Runs `dial-server` with a command on a folder; answers its exit code and what it said. */
export async function command(folder: string, args: readonly string[], env: Record<string, string> = {}) {
  const child = spawn(process.execPath, [MAIN, ...args], { env: { ...process.env, DIAL_DATA: folder, ...env } });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) {
    stream.on('data', (chunk: Buffer) => {
      said += chunk.toString();
    });
  }
  const [code] = (await once(child, 'exit')) as [number | null];
  return { code, said };
}
