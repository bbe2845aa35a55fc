import type { Checker } from './checking/checker.ts';
import type { Queries } from './db/queries.ts';
import type { Followers } from './followers.ts';
import { HttpProblem, notFound } from './problems.ts';

export interface Save {
  readonly id: string;
  /** The revision the change was made on. */
  readonly revision: number;
  readonly key: string;
  /** The bytes of a JSON Patch. */
  readonly patch: Buffer;
}

/** Characters of documents that are kept at hand, all together. */
const MOST_AT_HAND = 32 * 1024 * 1024;

/** Documents as they were last saved, so that the next edit need not fetch its level; the least lately saved goes first. */
function createAtHand() {
  const documents = new Map<string, { readonly revision: number; readonly document: string }>();
  let characters = 0;
  const forget = (id: string): void => {
    characters -= documents.get(id)?.document.length ?? 0;
    documents.delete(id);
  };
  return {
    at: (id: string, revision: number): string | undefined => {
      const found = documents.get(id);
      return found?.revision === revision ? found.document : undefined;
    },
    keep(id: string, revision: number, document: string): void {
      forget(id);
      documents.set(id, { revision, document });
      characters += document.length;
      for (const oldest of documents.keys()) {
        if (characters <= MOST_AT_HAND) break;
        forget(oldest);
      }
    },
  };
}

/** Makes changes of levels: each is checked in a thread of its own, stored whole, and told to those who follow. */
export function createSaving(queries: Queries, followers: Followers, checker: Checker): (save: Save) => Promise<number> {
  const atHand = createAtHand();

  const documentAt = async (id: string, revision: number): Promise<string | undefined> => {
    const known = atHand.at(id, revision);
    if (known !== undefined) return known;
    const found = await queries.findLevel(id);
    if (found === undefined) throw notFound('such level');
    return found.revision === revision ? found.document : undefined;
  };

  /** Makes the change; undefined when the level is at another revision, or the key has been used. */
  const make = async ({ id, revision, key, patch }: Save): Promise<number | undefined> => {
    const document = await documentAt(id, revision);
    if (document === undefined) return undefined;
    const changed = await checker.run('patchLevel', { document, patch }, revision);
    const saved = await queries.savePatch(id, revision, key, changed.operations, changed.document);
    if (saved === undefined) return undefined;
    atHand.keep(id, saved, changed.document);
    followers.tell(id, { revision: saved, key, operations: changed.operations });
    return saved;
  };

  return async (save) => {
    const { id, revision, key } = save;
    let refusal: Error | undefined;
    const saved = await make(save).catch((error: unknown) => {
      refusal = error instanceof Error ? error : new Error(String(error));
      return undefined;
    });
    if (saved !== undefined) return saved;
    // The same change may have been made before, its answer lost on the way; it is then no longer what fits the level.
    const before = await queries.findPatch(id, key);
    if (before !== undefined) return before;
    if (refusal !== undefined) throw refusal;
    const now = await queries.revisionOf(id);
    if (now === undefined) throw notFound('such level');
    const detail = `The level is at revision ${String(now)}, the change was made on ${String(revision)}. Nothing was changed.`;
    throw new HttpProblem(409, 'Clash', detail, { revision: now });
  };
}
