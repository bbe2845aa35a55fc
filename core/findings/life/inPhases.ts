import { PHASE_WORDS } from '../../formats/index.ts';
import { entry, phasesOfKind, type Kind, type PhaseOfKind } from '../../level/index.ts';
import type { Found } from '../finding.ts';
import { keptOf, subjectOf, type Form, type LevelView } from '../view.ts';

type Look = Kind['phases'][PhaseOfKind];

/** Something that is wrong with how things are in one of the phases they come to. */
interface InPhase<Field extends keyof Look> {
  readonly isWrong: (look: Look, kind: Kind, phase: PhaseOfKind) => boolean;
  readonly what: (name: string, phase: string) => string;
  readonly why: string;
  /** The value that mends it. */
  readonly field: Field;
  readonly value: Look[Field];
  readonly mend: (phase: string) => string;
}

/** The phases that things of a form ever come to, those in which they start among them. */
export function phasesOf({ level }: LevelView, { kind, placements }: Form): PhaseOfKind[] {
  const starts = placements.map((id) => entry(level.placements, id)?.starts.type ?? 'ready');
  return [...new Set([...phasesOfKind(kind), ...starts])];
}

/** Tells of every phase of every form in which something is wrong. */
export const inPhases = <Field extends keyof Look>(view: LevelView, { isWrong, what, why, field, value, mend }: InPhase<Field>): Found[] =>
  view.forms.flatMap((form) =>
    phasesOf(view, form)
      .filter((phase) => isWrong(form.kind.phases[phase], form.kind, phase))
      .map((phase) => ({
        subject: `${subjectOf(form)}/${phase}`,
        at: `/kinds/${form.kindId}/phases/${phase}/${field}`,
        where: { placements: form.placements },
        what: what(form.kind.name, PHASE_WORDS[phase]),
        why,
        cause: form.kind.phases[phase],
        mend: {
          words: mend(PHASE_WORDS[phase]),
          changes: keptOf(view.level, form, `/phases/${phase}/${field}`).map((path) => ({ path, value })),
        },
      })),
  );
