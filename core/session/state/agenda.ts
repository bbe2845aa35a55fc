import { grown } from '../../geometry/index.ts';

/**
 * What is due in which step: a wheel of lists, one for each step ahead. An entry is about one traveller, or about it and
 * another, or a thing that stays; it counts as long as both are what they were when it was made (their serials).
 */
export interface Agenda {
  readonly heads: Int32Array;
  next: Int32Array;
  one: Int32Array;
  other: Int32Array;
  oneSerial: Int32Array;
  otherSerial: Int32Array;
  /** The first entry that is not in use, or −1. */
  free: number;
}

const FIRST_ROOM = 64;

/** Ends a list. */
const END = -1;

/** Links the entries from `from` on into the list of those not in use. */
function offer(agenda: Agenda, from: number): void {
  const { next } = agenda;
  for (let entry = from; entry < next.length; entry += 1) next[entry] = entry + 1 < next.length ? entry + 1 : agenda.free;
  agenda.free = from;
}

/** `steps` is how far ahead things are put down at least. */
export function createAgenda(steps: number): Agenda {
  let size = 64;
  while (size <= steps) size *= 2;
  const column = (): Int32Array => new Int32Array(FIRST_ROOM);
  const agenda: Agenda = {
    heads: new Int32Array(size).fill(END),
    next: column(),
    one: column(),
    other: column(),
    oneSerial: column(),
    otherSerial: column(),
    free: END,
  };
  offer(agenda, 0);
  return agenda;
}

function makeRoom(agenda: Agenda): void {
  const from = agenda.next.length;
  agenda.next = grown(agenda.next);
  agenda.one = grown(agenda.one);
  agenda.other = grown(agenda.other);
  agenda.oneSerial = grown(agenda.oneSerial);
  agenda.otherSerial = grown(agenda.otherSerial);
  offer(agenda, from);
}

export function clearAgenda(agenda: Agenda): void {
  agenda.heads.fill(END);
  agenda.free = END;
  offer(agenda, 0);
}

/** Puts down what is due in a step, no further ahead than the wheel goes. */
export function putDown(agenda: Agenda, step: number, one: number, oneSerial: number, other: number, otherSerial: number): void {
  if (agenda.free === END) makeRoom(agenda);
  const entry = agenda.free;
  agenda.free = agenda.next[entry] as number;
  agenda.one[entry] = one;
  agenda.other[entry] = other;
  agenda.oneSerial[entry] = oneSerial;
  agenda.otherSerial[entry] = otherSerial;
  const slot = step & (agenda.heads.length - 1);
  agenda.next[entry] = agenda.heads[slot] as number;
  agenda.heads[slot] = entry;
}

/** Whether anything is due in a step. */
export function isDue({ heads }: Agenda, step: number): boolean {
  return heads[step & (heads.length - 1)] !== END;
}

/** Takes one entry that is due in a step off the wheel. It may be read until the next is put down. Answers −1 when there is none. */
export function takeDue(agenda: Agenda, step: number): number {
  const slot = step & (agenda.heads.length - 1);
  const entry = agenda.heads[slot] as number;
  if (entry === END) return END;
  agenda.heads[slot] = agenda.next[entry] as number;
  agenda.next[entry] = agenda.free;
  agenda.free = entry;
  return entry;
}
