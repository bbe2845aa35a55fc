import type { Outcome } from '../session/index.ts';
import { clockTime } from './numerals.ts';

const ENDINGS = {
  won: 'won',
  lost: 'lost',
  time: 'time is up',
  'inputs ended': 'the inputs end',
  'too many contacts': 'too many contacts',
  'too many changes': 'too many changes of movement',
} as const;

/** How and when a session ended: `time is up at 1:30.0`. */
export const endedWords = ({ ended }: Outcome): string => `${ENDINGS[ended.how]} at ${clockTime(ended.seconds)}`;
