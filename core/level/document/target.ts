import { z } from 'zod';
import { idOf, mapOf, Name, order } from './basics.ts';
import { quantity } from './quantities.ts';

const Thing = z
  .discriminatedUnion('type', [
    z.strictObject({
      type: z.literal('kind').meta({ description: 'All things of a kind, those that are spawned too.' }),
      kind: idOf('kinds'),
    }),
    z.strictObject({ type: z.literal('placement').meta({ description: 'One thing.' }), placement: idOf('placements') }),
  ])
  .meta({ description: 'What is used, or refuses.' });

/** What is asked of a session. */
export const AskedOutcome = z
  .discriminatedUnion('type', [
    z.strictObject({
      type: z.literal('finishes').meta({ description: 'Whether it is won; without goals, played until nothing is left to do.' }),
      within: quantity('playTime', 'Seconds within which it must be; null: any.').nullable().default(null),
    }),
    z.strictObject({ type: z.literal('loses a life').meta({ description: 'Whether any player dies.' }) }),
    z.strictObject({ type: z.literal('final').meta({ description: 'A meter at the end.' }), meter: idOf('meters') }),
    z.strictObject({ type: z.literal('lowest').meta({ description: 'The least a meter ever was.' }), meter: idOf('meters') }),
    z.strictObject({
      type: z.literal('carried').meta({ description: 'How many of an item are carried at the end.' }),
      item: idOf('items'),
    }),
    z.strictObject({ type: z.literal('time').meta({ description: 'Seconds that the session lasts.' }) }),
    z.strictObject({ type: z.literal('deaths').meta({ description: 'Deaths of all players.' }) }),
    z.strictObject({ type: z.literal('distance').meta({ description: 'Units walked by all players.' }) }),
    z.strictObject({ type: z.literal('standing still').meta({ description: 'Seconds.' }) }),
    z.strictObject({
      type: z.literal('changed movement').meta({ description: 'Share of time with a change of movement in force, of 100.' }),
    }),
    z.strictObject({ type: z.literal('waiting').meta({ description: 'Seconds spent at things that rest.' }) }),
    z.strictObject({ type: z.literal('uses').meta({ description: 'How often something is used.' }), of: Thing }),
    z.strictObject({ type: z.literal('refusals').meta({ description: 'How often something refuses a player.' }), of: Thing }),
  ])
  .meta({ title: 'Outcome', description: 'What is asked of a session.' });
export type AskedOutcome = z.infer<typeof AskedOutcome>;

/** Outcomes that are so or not so: of many sessions they are a share. */
export const isAsked = ({ type }: Pick<AskedOutcome, 'type'>): boolean => type === 'finishes' || type === 'loses a life';

const bound = (description: string) => quantity('meterValue', description).nullable().default(null);

export const Statistic = z
  .discriminatedUnion('type', [
    z.strictObject({ type: z.literal('mean').meta({ description: 'The mean.' }) }),
    z.strictObject({
      type: z.literal('share').meta({ description: 'Of 100 sessions, how many: for which it is so, or where it lies between these.' }),
      from: bound('Sessions count where it is at least this; null: any.'),
      to: bound('Sessions count where it is at most this; null: any.'),
    }),
    z.strictObject({
      type: z.literal('quantile').meta({ description: 'What so large a share of sessions lies below; half: the median.' }),
      below: quantity('share', 'The share below it.').default(0.5),
    }),
  ])
  .meta({ description: 'What of many sessions is judged.' });
export type Statistic = z.infer<typeof Statistic>;

const sessionsAs = {
  seconds: quantity('playTime', 'A session that goes on is cut off after so long.').default(120),
  seed: quantity('seed', 'Seed of the first session of each persona; the next has the next.').default(1),
  start: idOf('tries').nullable().default(null).meta({ description: 'The starting state; null: the start of the level.' }),
};

/** What a level shall come to: a figure of an outcome over many sessions, and where it has to lie. */
export const Target = z
  .strictObject({
    order,
    outcome: AskedOutcome,
    statistic: Statistic,
    least: bound('It must be at least this; null: no limit.'),
    most: bound('It must be at most this; null: no limit.'),
    than: Name.nullable()
      .default(null)
      .meta({ description: 'Name of a version: what is judged is then by how much the same sessions come out otherwise than there.' }),
    personas: z.array(idOf('personas')).max(32).default([]).meta({ description: 'Who plays; none stated: all personas in turn.' }),
    sessions: quantity('sessions', 'Sessions at most; it is decided with fewer where the interval allows.').default(200),
    ...sessionsAs,
  })
  .refine(({ least, most }) => least !== null || most !== null, {
    message: 'a target states at least, at most, or both',
    path: ['least'],
  })
  .refine(({ least, most }) => least === null || most === null || least <= most, {
    message: 'contradicts itself: at least is more than at most',
    path: ['least'],
  })
  .refine(({ outcome, statistic }) => !isAsked(outcome) || statistic.type === 'share', {
    message: 'what is so or not so is judged as a share of sessions',
    path: ['statistic'],
  })
  .refine(({ outcome, statistic }) => isAsked(outcome) || statistic.type !== 'share' || statistic.from !== null || statistic.to !== null, {
    message: 'says from where or up to where sessions count',
    path: ['statistic', 'from'],
  })
  .refine(({ statistic }) => statistic.type !== 'share' || (statistic.from ?? -Infinity) <= (statistic.to ?? Infinity), {
    message: 'contradicts itself: no session lies there',
    path: ['statistic', 'from'],
  })
  .refine(({ than, statistic }) => than === null || statistic.type !== 'quantile', {
    message: 'against a version the mean or a share is judged',
    path: ['statistic'],
  })
  .meta({ title: 'Target', description: 'What the level shall come to.' });
export type Target = z.infer<typeof Target>;

/** Where something is wished to lie; infinite: no limit there. */
export interface Wished {
  readonly from: number;
  readonly to: number;
}

/** Where a target wishes single sessions to lie: where its share counts, else where its middle has to be. Null: it says nothing of that. */
export function wishedOf({ outcome, statistic, least, most, than }: Target): Wished | null {
  if (than !== null || isAsked(outcome)) return null;
  const [from, to] = statistic.type === 'share' ? [statistic.from, statistic.to] : [least, most];
  return { from: from ?? -Infinity, to: to ?? Infinity };
}

/** The crowd that a level states: the one that is played when nothing else is said. */
export const StatedCrowd = z
  .strictObject({
    personas: mapOf(quantity('sessions'), 32, 'Sessions of each persona.', idOf('personas')),
    ...sessionsAs,
  })
  .refine(({ personas }) => Object.keys(personas).length > 0, { message: 'a crowd needs at least one session', path: ['personas'] })
  .meta({ description: 'The crowd that is played when nothing else is said; null: a hundred of each persona.' });
