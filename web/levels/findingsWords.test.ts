import type { Finding } from '../../core/findings/index.ts';
import { findingsActions, findingsReducer, openFindings } from '../state/slices/findings.ts';
import { findingsWords } from './findingsWords.ts';
import { works } from '../testing/shown.ts';

const one = (severity: 'breaks it' | 'worth a look', meant: string | null = null) => ({ severity, meant });

test.each([
  [[], 'no findings'],
  [[one('worth a look', 'so')], 'no findings, 1 set aside'],
  [[one('worth a look')], '1 finding'],
  [[one('breaks it'), one('worth a look')], '2 findings, 1 of them breaks it'],
  [[one('breaks it'), one('breaks it'), one('worth a look', 'so')], '2 findings, 2 of them break it, 1 set aside'],
])('how much is found is told in a line', (findings, words) => {
  expect(findingsWords(findings)).toBe(words);
});

test('what is found is of one level; what is pointed at stays while it is looked for anew', () => {
  const came = findingsReducer(undefined, findingsActions.came({ level: works, findings: [] }));
  const pointed = findingsReducer(came, findingsActions.pointed('stacked-things one'));
  expect(findingsReducer(pointed, findingsActions.came({ level: { ...works }, findings: [] }))).toMatchObject({
    pointed: 'stacked-things one',
    found: { findings: [] },
  });
  const aside = { ...one('worth a look', 'so'), id: 'a' } as Finding;
  const open = { ...one('breaks it'), id: 'b' } as Finding;
  const state = findingsReducer(pointed, findingsActions.came({ level: works, findings: [open, aside] }));
  expect(openFindings({ findings: state })).toEqual([open]);
});
