import type { Level } from '../level/index.ts';
import { isOpen, SEVERITIES, type Finding } from './finding.ts';
import { MISTAKES } from './mistakes.ts';
import { findingOf } from './telling.ts';
import { viewOf } from './view.ts';

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
export const openFindings = (level: Level): readonly Finding[] => findingsOf(level).filter(isOpen);
