/** What the server answers: its own routes and the page read the same shapes. Times are ISO 8601. */
import { z } from 'zod';
import { Level, Name } from '../level/index.ts';
import { Outside, Run } from '../players/index.ts';
import { Answer, CrowdSettings, Judging, Summary } from '../studies/index.ts';

/**
 * A document that was checked when it came in: it is not checked again field by field on each reading, only told from
 * what is no document at all.
 */
const accepted = <Value>(name: string, schema: z.ZodType<Value>) =>
  z
    .custom<Value>((value) => typeof value === 'object' && value !== null)
    .meta({ $ref: `#/components/schemas/${name}`, description: schema.description });

export const LevelDocument = accepted('Level', Level);
export const RunDocument = accepted('Run', Run);

const Time = z.string().meta({ format: 'date-time' });

/** How the targets of a level stood. */
export const CheckOutcome = z.object({ met: z.int(), missed: z.int(), undecided: z.int(), notJudged: z.int() });
export type CheckOutcome = z.infer<typeof CheckOutcome>;

export const LevelEntry = z.object({
  id: z.string(),
  name: z.string(),
  revision: z.int(),
  updatedAt: Time,
  latestRun: z.string().nullable().meta({ description: 'Id of the newest run, null when there is none.' }),
  check: z
    .object({ outcome: CheckOutcome, revision: z.int() })
    .nullable()
    .meta({ description: 'How the targets stood at the newest check that is done, and of which revision; null when there is none.' }),
});
export type LevelEntry = z.infer<typeof LevelEntry>;

export const LevelReply = z.object({ id: z.string(), revision: z.int(), updatedAt: Time, document: LevelDocument });
export type LevelReply = z.infer<typeof LevelReply>;

export const VersionEntry = z.object({ id: z.int(), name: z.string(), createdAt: Time });
export type VersionEntry = z.infer<typeof VersionEntry>;
export const VersionReply = VersionEntry.extend({ document: LevelDocument });
export type VersionReply = z.infer<typeof VersionReply>;

export const RunEntry = z.object({
  id: z.string(),
  name: z.string(),
  starred: z.boolean(),
  seconds: z.number(),
  createdAt: Time,
});
export type RunEntry = z.infer<typeof RunEntry>;
export const RunReply = RunEntry.extend({ run: RunDocument });

/** What may be changed of a run that is kept; what is left out stays. */
export const RunChange = z
  .strictObject({
    name: Name,
    starred: z.boolean(),
    deleted: z.boolean(),
    events: z.array(Outside).max(10_000).meta({ description: 'All its events from outside, in any order.' }),
  })
  .partial();
export type RunChange = z.infer<typeof RunChange>;

export const Saved = z.object({ id: z.string(), revision: z.int() });

/** A change that has been saved, as those who follow the level are told of it. */
export const SavedChange = z.object({ revision: z.int(), key: z.string(), operations: z.array(z.unknown()) });
export const At = z.object({ revision: z.int() });

/** Problem details (RFC 9457), the body of every error. */
export const ProblemDetails = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  problems: z
    .array(z.object({ path: z.string(), message: z.string() }))
    .optional()
    .meta({ description: 'The places in a refused document, the first of them.' }),
  moreProblems: z.int().optional().meta({ description: 'How many more places there are.' }),
  revision: z.int().optional().meta({ description: 'The revision the level has now, when a save was refused.' }),
});
export type ProblemDetails = z.infer<typeof ProblemDetails>;

/** Whether the server is well. */
export const Health = z.object({
  ok: z.literal(true),
  database: z.literal('answers'),
  disk: z.object({ freeBytes: z.number(), state: z.enum(['roomy', 'nearly full']) }),
});

export const StudyState = z
  .enum(['waiting', 'running', 'done', 'cancelled', 'failed'])
  .meta({ description: 'Waiting and running go on by themselves, also after the server was ended; the others are final.' });
export type StudyState = z.infer<typeof StudyState>;

/** A study that is kept: what was asked for, of which revision of the level, and how far it has come. */
export const StudyEntry = z.object({
  id: z.string(),
  name: z.string(),
  revision: z.int().meta({ description: 'The revision the level was at when it was begun.' }),
  settings: z
    .union([CrowdSettings, Judging])
    .meta({ description: 'Of a crowd who plays; of a study of values its `kind` and what is asked.' }),
  sessions: z.int().meta({ description: 'Sessions asked for; of a study of values at most.' }),
  done: z.int().meta({ description: 'Sessions that have been played and kept.' }),
  state: StudyState,
  why: z.string().nullable().meta({ description: 'Why it failed.' }),
  outcome: CheckOutcome.nullable().meta({ description: 'Of a check that is done: how many targets stand how.' }),
  simulation: z.int().meta({ description: 'The version of the simulation that played it; 0: not known.' }),
  asking: z.int().meta({ description: 'By which version of its sort of study its parts were asked for.' }),
  createdAt: Time,
  endedAt: Time.nullable(),
});
export type StudyEntry = z.infer<typeof StudyEntry>;

/**
 * A study with the level it was played on, and what came of it: of a crowd its sessions, in parts that are merged in any order; of a study
 * of values the answers to its parts, by their numbers.
 */
export const StudyReply = StudyEntry.extend({
  document: LevelDocument,
  versions: z.record(z.string(), LevelDocument),
  parts: z.array(accepted('Summary', Summary)),
  answers: z.array(z.object({ part: z.int(), answer: Answer })),
});
export type StudyReply = z.infer<typeof StudyReply>;

export const StudyAsked = z.strictObject({
  name: Name,
  settings: z.union([CrowdSettings, Judging]),
  version: z.int().nullable().default(null).meta({ description: 'A version of the level that is played; null: the level as it is.' }),
});
export type StudyAsked = z.input<typeof StudyAsked>;

export const StudyChange = z.strictObject({ name: Name, deleted: z.boolean() }).partial();
export type StudyChange = z.infer<typeof StudyChange>;

/** How far a study has come, as those who follow its level are told. */
export const StudyProgress = z.object({
  id: z.string(),
  state: StudyState,
  done: z.int(),
  secondsLeft: z.number().nullable().meta({ description: 'What is left of it at the pace it has; null: not known.' }),
});
export type StudyProgress = z.infer<typeof StudyProgress>;
