/** What studies of values are asked, as files and the server hold it. Apart from what plays them, which not every page needs. */
import { z } from 'zod';
import { isAsked, AskedOutcome, Statistic } from '../../level/index.ts';
import { CrowdSettings, MOST_STUDIED } from '../settings.ts';

/** A dial that a study turns: JSON Pointers of where its value is kept, in one place or in several at once. */
export const DialAt = z.strictObject({ paths: z.array(z.string().max(400)).min(1).max(5000) });
export type DialAt = z.infer<typeof DialAt>;

/** More values than this of one dial say no more. */
export const MOST_VALUES = 200;

/** A figure of many sessions: an outcome, and what of it. */
export const Figure = z
  .strictObject({ outcome: AskedOutcome, statistic: Statistic })
  .refine(
    ({ outcome, statistic }) => isAsked(outcome) === (statistic.type === 'share' && statistic.from === null && statistic.to === null),
    {
      message: 'what is so or not so is judged as a share of sessions, without bounds; anything else otherwise',
    },
  );
export type Figure = z.infer<typeof Figure>;

/** One dial at another value: JSON Pointers of where it is kept, in one place or in several at once. */
export const Turned = z.strictObject({ paths: z.array(z.string().max(400)).min(1).max(5000), value: z.number() });
export type Turned = z.infer<typeof Turned>;

/** Some sessions of a level as it would be, and what is asked of each of them. */
export const Ask = z.strictObject({
  /** The version of the level that is played; null: the level itself. */
  version: z.string().nullable(),
  turned: z.array(Turned).max(32),
  crowd: CrowdSettings,
  from: z.int().min(0),
  to: z.int().min(0),
  outcomes: z.array(AskedOutcome).min(1).max(64),
});
export type Ask = z.infer<typeof Ask>;

/** What was answered: of each outcome a number for each session, in order. */
export const Answer = z.array(z.array(z.number()));
export type Answer = z.infer<typeof Answer>;

/** One or two dials over their values, and what is asked of the same sessions at each. */
export const SweepSettings = z
  .strictObject({
    dials: z
      .array(DialAt.extend({ values: z.array(z.number()).min(1, 'a range needs at least one value').max(MOST_VALUES) }))
      .min(1)
      .max(2),
    figures: z.array(Figure).min(1).max(6),
    crowd: CrowdSettings,
  })
  .meta({ title: 'Sweep', description: 'One or two dials over their values, and what is asked of the same sessions at each.' });
export type SweepSettings = z.infer<typeof SweepSettings>;

const NUDGES = 'dials are nudged by 1 to 90 % of their values';

/** Dials that are nudged down and up, and what is asked of the same sessions each time. */
export const SensitivitySettings = z
  .strictObject({
    dials: z.array(DialAt).min(1, 'choose at least one dial').max(500),
    share: z
      .number(NUDGES)
      .min(0.01, NUDGES)
      .max(0.9, NUDGES)
      .default(0.2)
      .meta({ description: 'By so much of its value each is nudged, down and up.' }),
    figure: Figure,
    crowd: CrowdSettings,
    atATime: z
      .int()
      .min(1)
      .max(500)
      .nullable()
      .default(null)
      .meta({ description: 'Dials that are played together before the next, so that the first are known early; null: all.' }),
  })
  .meta({ title: 'What matters', description: 'Dials that are nudged down and up, and what is asked of the same sessions each time.' });
export type SensitivitySettings = z.infer<typeof SensitivitySettings>;

/** A dial within a range, and the figure that is wished for. */
export const SeekSettings = z
  .strictObject({
    dial: DialAt,
    from: z.number(),
    to: z.number(),
    figure: Figure,
    wish: z.number(),
    crowd: CrowdSettings,
  })
  .refine(({ from, to }) => from < to, { message: 'the range is empty: from must be less than to', path: ['from'] })
  .meta({ title: 'Seek', description: 'The value of a dial at which a figure is as wished.' });
export type SeekSettings = z.infer<typeof SeekSettings>;

const COSTS = `a search costs at least 100 sessions, at most ${String(MOST_STUDIED)}`;

/** Dials that may move, each within a range, so that the targets of the level are met. */
export const TuneSettings = z
  .strictObject({
    dials: z
      .array(
        DialAt.extend({
          from: z.number(),
          to: z.number(),
          step: z
            .number()
            .positive('the step must be more than nought')
            .nullable()
            .default(null)
            .meta({ description: 'Its values lie so far apart, counted from where it stands; null: wherever.' }),
          weight: z
            .number()
            .min(0)
            .max(100)
            .default(1)
            .meta({ description: 'How much it is wished to stay where it is, beside the others.' }),
        }).refine(({ from, to }) => from < to, { message: 'the range is empty: from must be less than to', path: ['from'] }),
      )
      .min(1, 'choose at least one dial that may move')
      .max(12),
    targets: z.array(z.string().max(64)).max(64).default([]).meta({ description: 'Ids of targets of the level; none named: all of them.' }),
    sessions: z
      .int(COSTS)
      .min(100, COSTS)
      .max(MOST_STUDIED, COSTS)
      .default(20_000)
      .meta({ description: 'Sessions that the search may cost.' }),
    seed: z.int().min(0).max(0xffffffff).default(1).meta({ description: 'What the search is drawn by.' }),
  })
  .meta({ title: 'Tune', description: 'Dials that may move, each within a range, so that targets are met.' });
export type TuneSettings = z.infer<typeof TuneSettings>;

/** A study of values: which, and what is asked. */
export const Judging = z
  .discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('check').meta({ description: 'Judge all targets of the level.' }) }),
    z.strictObject({ kind: z.literal('sweep'), of: SweepSettings }),
    z.strictObject({ kind: z.literal('sensitivity'), of: SensitivitySettings }),
    z.strictObject({ kind: z.literal('seek'), of: SeekSettings }),
    z.strictObject({ kind: z.literal('tune'), of: TuneSettings }),
  ])
  .meta({ title: 'Judging', description: 'A study of values: a check of targets, a sweep, what matters, seek, or tune.' });
export type Judging = z.infer<typeof Judging>;

/** Which parts each study asks for, and in which order, by version: answers to those of another mean something else. */
const ASKING: Readonly<Record<Judging['kind'], number>> = { check: 1, sweep: 1, sensitivity: 1, seek: 2, tune: 2 };

/** The version by which a study is asked now. A crowd has one only. */
export const askingOf = (settings: CrowdSettings | Judging): number => ('kind' in settings ? ASKING[settings.kind] : 1);
