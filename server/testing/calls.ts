import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';

const demo = (path: string): Record<string, unknown> =>
  JSON.parse(readFileSync(join(process.cwd(), 'demo/night-firing', path), 'utf8')) as Record<string, unknown>;

export const demoLevel = demo('level.json');
export const demoRun = demo('runs/careful-walk.json');
/** A number of the demo that tests turn. */
export const REST = '/kinds/cooling-basin/rules/cool/becomes/seconds';
export const LEVEL = '/api/levels/night-firing';

export interface Answer {
  readonly status: number;
  readonly headers: Headers;
  readonly text: string;
  readonly body: Record<string, never> & { readonly revision: number; readonly detail: string; readonly id: string };
}

export type Call = (method: string, path: string, body?: unknown, headers?: Record<string, string>) => Promise<Answer>;

/** Calls a server by its address; a body that is no text is sent as JSON. */
export const caller =
  (url: () => string): Call =>
  async (method, path, body, headers = {}) => {
    const text = body === undefined || typeof body === 'string' ? body : JSON.stringify(body);
    const patching = method === 'PATCH' && !path.includes('/runs/');
    const type = text === undefined ? {} : { 'content-type': patching ? 'application/json-patch+json' : 'application/json' };
    const response = await fetch(url() + path, { method, headers: { ...type, ...headers }, ...(text === undefined ? {} : { body: text }) });
    const answer = await response.text();
    const isJson = /json/.test(response.headers.get('content-type') ?? '');
    return {
      status: response.status,
      headers: response.headers,
      text: answer,
      body: JSON.parse(isJson && answer !== '' ? answer : '{}') as Answer['body'],
    };
  };

/** Sends bytes as they are, as no well-behaved program would; answers the status and the rest of what comes back. */
export async function raw(url: string, request: string): Promise<{ readonly status: number; readonly text: string }> {
  const { hostname, port } = new URL(url);
  return new Promise((resolve, reject) => {
    let text = '';
    const socket = connect(Number(port), hostname, () => socket.write(request));
    socket.on('data', (chunk) => {
      text += chunk.toString();
    });
    socket.on('end', () => resolve({ status: Number(/^HTTP\/1\.1 (\d+)/.exec(text)?.[1] ?? 0), text }));
    socket.on('error', reject);
  });
}
