import { z } from 'zod';
import { Name, order } from './basics.ts';
import { quantity } from './quantities.ts';

export const BOOSTS = ['sought', 'used in passing', 'avoided'] as const;

/** How a simulated player sees, decides and errs. What each number does is told in docs/players.md. */
export const Persona = z
  .strictObject({
    name: Name,
    order,
    reaction: quantity('reaction', 'Seconds from something that is seen to what is done about it, in the mean.').default(0.25),
    reactionSpread: quantity('reaction', 'By how much a reaction is longer or shorter: its standard deviation.').default(0.05),
    aimError: quantity('aimError').default(5),
    timingError: quantity('timingError').default(0.08),
    decisions: quantity('decisions').default(4),
    sight: quantity('sight').default(14),
    memory: quantity('memory').default(45),
    caution: quantity('detourFor', 'How long a detour one expected point of lost health is worth.').default(0.25),
    greed: quantity('detourFor', 'How long a detour one point of score is worth.').default(0.04),
    healsBelow: quantity('share', 'Looks for healing below this share of health.').default(0.5),
    patience: quantity('duration', 'Waits no longer than this for something that rests.').default(3),
    boosts: z
      .enum(BOOSTS)
      .default('used in passing')
      .meta({ description: 'What makes quicker is gone for, taken when it lies on the way, or gone round.' }),
    haste: quantity('share', 'Share of full speed that it keeps.').default(0.95),
    curiosity: quantity('detour', 'How long a detour a part of the level not yet seen is worth.').default(8),
    givesUpDeaths: quantity('limit', 'Gives up after so many deaths.').default(5),
    givesUpSeconds: quantity('duration', 'Gives up after so long without coming nearer to anything.').default(30),
  })
  .meta({ description: 'A simulated player: how it sees, decides and errs.' });

export type Persona = z.infer<typeof Persona>;

/** The personas that come with Dial, by character. */
export const SHIPPED_PERSONAS: Readonly<Record<string, z.input<typeof Persona>>> = {
  steady: { name: 'steady', order: 1 },
  wary: {
    name: 'wary',
    order: 2,
    reactionSpread: 0.04,
    aimError: 4,
    decisions: 5,
    memory: 60,
    caution: 0.8,
    healsBelow: 0.75,
    patience: 6,
    boosts: 'avoided',
    haste: 0.72,
    curiosity: 10,
    givesUpDeaths: 4,
  },
  hasty: {
    name: 'hasty',
    order: 3,
    reaction: 0.22,
    aimError: 9,
    timingError: 0.14,
    decisions: 3,
    memory: 20,
    caution: 0.03,
    greed: 0.01,
    healsBelow: 0.2,
    patience: 0.5,
    boosts: 'sought',
    haste: 1,
    curiosity: 2,
  },
  greedy: { name: 'greedy', order: 4, caution: 0.12, greed: 0.3, healsBelow: 0.35, patience: 4, haste: 1, curiosity: 12 },
  newcomer: {
    name: 'newcomer',
    order: 5,
    reaction: 0.5,
    reactionSpread: 0.15,
    aimError: 13,
    timingError: 0.2,
    decisions: 2,
    sight: 9,
    memory: 12,
    caution: 0.2,
    patience: 5,
    haste: 0.75,
    curiosity: 20,
    givesUpDeaths: 6,
    givesUpSeconds: 45,
  },
};
