import { countingSlot, isOn, NEVER, PHASE, PHASES, stepOf, type Compiled, type Session } from '../../session/index.ts';

/** Whether what is solid of a form is so in a phase. */
export const isSolidIn = ({ forms }: Compiled, form: number, phase: number): boolean => forms.solidIn[form * PHASES.length + phase] === 1;

/** Whether what is solid of a form comes and goes by itself: by a clock, or for a time after something was done to it. */
export function comesAndGoes(compiled: Compiled, form: number): boolean {
  const { forms } = compiled;
  if (forms.hasSolid[form] === 0) return false;
  const cycles = (forms.cycleOff[form] as number) > 0 && isSolidIn(compiled, form, PHASE.ready) !== isSolidIn(compiled, form, PHASE.off);
  return cycles || !isSolidIn(compiled, form, PHASE.ready);
}

/** In how many steps a thing is next as it is when ready, or off by its clock, if that is as solid as asked for; Infinity when it does not come to be so by itself. */
function comesToBe(compiled: Compiled, session: Session, placement: number, solid: boolean): number {
  const { state } = session;
  const form = state.form[placement] as number;
  const slot = countingSlot(session, placement, 0);
  const isReady = state.phase[slot] === PHASE.ready;
  const cycles = (compiled.forms.cycleOff[form] as number) > 0;
  const next = isReady && cycles && state.cycledOff[placement] === 0 ? PHASE.off : PHASE.ready;
  const due = (isReady ? (cycles ? state.cycleDue[placement] : NEVER) : state.phaseDue[slot]) as number;
  return due === NEVER || form < 0 || isSolidIn(compiled, form, next) !== solid ? Infinity : Math.max(1, due - stepOf(session));
}

/** For how long a box of a thing is not solid yet, in steps: 0 when it is, Infinity when it does not come back by itself. */
export function backIn(compiled: Compiled, session: Session, item: number): number {
  const owner = compiled.solids.owner[item] as number;
  return owner < 0 || isOn(session, item) ? 0 : comesToBe(compiled, session, owner, true);
}

/** For how long a box of a thing is still solid, in steps: 0 when it is not, Infinity when it stays so. */
export function goneIn(compiled: Compiled, session: Session, item: number): number {
  const owner = compiled.solids.owner[item] as number;
  if (!isOn(session, item)) return 0;
  return owner < 0 ? Infinity : comesToBe(compiled, session, owner, false);
}
