import type { Mistake } from '../finding.ts';
import { conditionsThat } from './neverHolds.ts';

export const alwaysHolds: Mistake = {
  code: 'always-holds',
  title: 'a condition that always holds',
  severity: 'worth a look',
  find: (view) => conditionsThat(view, true),
};
