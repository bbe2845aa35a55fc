import { PHASE_WORDS } from '../../formats/index.ts';
import type { Kind, PhaseOfKind } from '../../level/index.ts';
import type { Found } from '../finding.ts';
import { keptOf, phasesOf, subjectOf, type LevelView } from '../view.ts';

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
