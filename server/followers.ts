import type { StudyProgress } from '@dial/core/api';
import type { ServerResponse } from 'node:http';

/** Keeps proxies and browsers from taking a quiet stream for a dead one. */
const HEARTBEAT_MILLISECONDS = 20_000;
/** A follower that does not read is let go once so many bytes wait for it; on coming back it is told the revision. */
const MOST_WAITING_BYTES = 1024 * 1024;
const MOST_FOLLOWERS = 500;

/** Pages and games that follow a level: each holds a stream of server-sent events open. */
export class Followers {
  readonly #streams = new Map<string, Set<ServerResponse>>();
  readonly #heartbeat = setInterval(() => {
    for (const streams of this.#streams.values()) for (const stream of streams) this.#write(stream, ':\n\n');
  }, HEARTBEAT_MILLISECONDS).unref();

  #write(stream: ServerResponse, text: string): void {
    if (stream.writableLength > MOST_WAITING_BYTES) stream.destroy();
    else stream.write(text);
  }

  /** Whether one more can be followed by. */
  get full(): boolean {
    let count = 0;
    for (const streams of this.#streams.values()) count += streams.size;
    return count >= MOST_FOLLOWERS;
  }

  /** Sends changes of a level to a stream from now on; first of all, at which revision the level is. */
  add(level: string, revision: number, stream: ServerResponse, headers: Readonly<Record<string, string>>): void {
    stream.writeHead(200, {
      ...headers,
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
    this.#write(stream, `retry: 1000\nevent: at\ndata: ${JSON.stringify({ revision })}\n\n`);
  }

  /** Tells of a change that has been saved; `operations` is the text of its JSON Patch. */
  tell(
    level: string,
    { revision, key, operations }: { readonly revision: number; readonly key: string; readonly operations: string },
  ): void {
    // What is too large for a stream is fetched by the page: it is told only where the level is now.
    if (operations.length > MOST_WAITING_BYTES / 4) {
      for (const stream of this.#streams.get(level) ?? []) this.#write(stream, `event: at\ndata: ${JSON.stringify({ revision })}\n\n`);
      return;
    }
    const data = `{"revision":${String(revision)},"key":${JSON.stringify(key)},"operations":${operations}}`;
    for (const stream of this.#streams.get(level) ?? []) this.#write(stream, `event: saved\ndata: ${data}\n\n`);
  }

  /** Tells of how far a study of a level has come. */
  tellOfStudy(level: string, progress: StudyProgress): void {
    for (const stream of this.#streams.get(level) ?? []) this.#write(stream, `event: study\ndata: ${JSON.stringify(progress)}\n\n`);
  }

  end(): void {
    clearInterval(this.#heartbeat);
    for (const streams of this.#streams.values()) for (const stream of streams) stream.end();
  }
}
