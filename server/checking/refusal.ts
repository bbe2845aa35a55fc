import { HttpProblem } from '../problems.ts';
import type { Checked } from './reading.ts';

const ANSWERS = {
  'not JSON': { status: 400, title: 'Not JSON' },
  'not valid': { status: 422, title: 'Not valid' },
  clash: { status: 409, title: 'Clash' },
} as const;

/** What a body that was refused is answered with. */
export function refusal({ what, problems }: Extract<Checked<unknown>, { ok: false }>, revision?: number): HttpProblem {
  const [first] = problems;
  const place = first === undefined || first.path === '' ? '' : `${first.path}: `;
  const { status, title } = ANSWERS[what];
  const detail = `${place}${first?.message ?? 'not valid'}. Nothing was changed.`;
  return new HttpProblem(status, title, detail, what === 'clash' ? { revision } : { problems });
}
