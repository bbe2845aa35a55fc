import type { Finding } from '@dial/core/findings';

/** How much is found, in a line: those that are set aside are only counted. */
export function findingsWords(findings: readonly Pick<Finding, 'severity' | 'meant'>[]): string {
  const open = findings.filter(({ meant }) => meant === null);
  const aside = findings.length - open.length;
  const rest = aside === 0 ? '' : `, ${String(aside)} set aside`;
  if (open.length === 0) return `no findings${rest}`;
  const grave = open.filter(({ severity }) => severity === 'breaks it').length;
  const breaks = grave === 0 ? '' : `, ${String(grave)} of them ${grave === 1 ? 'breaks' : 'break'} it`;
  return `${String(open.length)} ${open.length === 1 ? 'finding' : 'findings'}${breaks}${rest}`;
}
