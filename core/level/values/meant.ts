import { entry } from '../document/pointers.ts';
import type { Level } from '../document/schema.ts';

/** Why something that is found is meant so, where the level sets it aside; null: it does not, or did for another cause: it has come back. */
export function whyMeant(meant: Level['meant'], { key, cause }: { readonly key: string; readonly cause: string }): string | null {
  const aside = entry(meant, key);
  return aside?.cause === cause ? aside.reason : null;
}
