import { createDigest, canonicalText, documentHash, entry, type Level } from '../level/index.ts';
import { SEVERITIES, type Finding, type Found, type Mistake, type Where } from './finding.ts';
import { MISTAKES } from './mistakes.ts';
import { viewOf } from './view.ts';

/** Under which a finding is set aside in a level: an id as maps of a level have them. */
const keyOf = (id: string): string => `f${documentHash(id)}`;

const nowhere: Where = { placements: [], points: [], solids: [], paths: [] };

/** More things than this are not named one by one. */
const MOST_PLACES = 200;

function findingOf(level: Level, { code, title, severity }: Mistake, found: Found): Finding {
  const digest = createDigest();
  digest.addText(canonicalText(found.cause));
  const id = `${code} ${found.subject}`;
  const cause = digest.text();
  const key = keyOf(id);
  const meant = entry(level.meant, key);
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
    // Set aside for another cause, it has come back.
    meant: meant?.cause === cause ? meant.reason : null,
  };
}

const rank = ({ severity }: Finding): number => SEVERITIES.indexOf(severity);

const known = new WeakMap<Level, readonly Finding[]>();

/** Everything that is wrong with a level, or worth a look: the gravest first; what is set aside with why it is meant so. */
export function findingsOf(level: Level): readonly Finding[] {
  const before = known.get(level);
  if (before !== undefined) return before;
  const view = viewOf(level);
  const all = Object.values(MISTAKES)
    .flat()
    .flatMap((mistake) => mistake.find(view).map((found) => findingOf(level, mistake, found)));
  const findings = all.sort((a, b) => rank(a) - rank(b));
  known.set(level, findings);
  return findings;
}

/** Those that are not set aside. */
export const openFindings = (level: Level): readonly Finding[] => findingsOf(level).filter(({ meant }) => meant === null);
