import { canonicalText, createDigest, documentHash, whyMeant, type Level } from '../level/index.ts';
import type { Finding, Found, Mistake, Where } from './finding.ts';

/** Under which a finding is set aside in a level: an id as maps of a level have them. */
const keyOf = (id: string): string => `f${documentHash(id)}`;

const nowhere: Where = { placements: [], points: [], solids: [], paths: [] };

/** More things than this are not named one by one. */
const MOST_PLACES = 200;

/** What is found, as it is told: with whether it is set aside in the level. */
export function findingOf(level: Level, { code, title, severity }: Pick<Mistake, 'code' | 'title' | 'severity'>, found: Found): Finding {
  const digest = createDigest();
  digest.addText(canonicalText(found.cause));
  const id = `${code} ${found.subject}`;
  const cause = digest.text();
  const key = keyOf(id);
  return {
    id,
    key,
    code,
    title,
    severity: found.severity ?? severity,
    at: found.at,
    where: { ...nowhere, ...found.where, placements: [...new Set(found.where?.placements ?? [])].slice(0, MOST_PLACES) },
    what: found.what,
    why: found.why,
    cause,
    mend: found.mend ?? null,
    meant: whyMeant(level.meant, { key, cause }),
  };
}
