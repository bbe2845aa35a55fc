import type { ServerResponse } from 'node:http';

/** A change that has been saved, as those who follow the level are told of it. */
export interface SavedChange {
  readonly revision: number;
  readonly key: string;
  readonly operations: unknown;
}

/** Keeps proxies and browsers from taking a quiet stream for a dead one. */
const HEARTBEAT_MILLISECONDS = 20_000;

/** Pages and games that follow a level: each holds a stream of server-sent events open. */
export class Followers {
  readonly #streams = new Map<string, Set<ServerResponse>>();
  readonly #heartbeat = setInterval(() => {
    for (const streams of this.#streams.values()) for (const stream of streams) stream.write(':\n\n');
  }, HEARTBEAT_MILLISECONDS).unref();

  /** Sends changes of a level to a stream from now on; first of all, at which revision the level is. */
  add(level: string, revision: number, stream: ServerResponse): void {
    stream.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    });
    const streams = this.#streams.get(level) ?? new Set();
    this.#streams.set(level, streams.add(stream));
    stream.on('close', () => {
      streams.delete(stream);
      if (streams.size === 0) this.#streams.delete(level);
    });
    stream.write(`retry: 1000\nevent: at\ndata: ${JSON.stringify({ revision })}\n\n`);
  }

  tell(level: string, change: SavedChange): void {
    for (const stream of this.#streams.get(level) ?? []) stream.write(`event: saved\ndata: ${JSON.stringify(change)}\n\n`);
  }

  end(): void {
    clearInterval(this.#heartbeat);
    for (const streams of this.#streams.values()) for (const stream of streams) stream.end();
  }
}
