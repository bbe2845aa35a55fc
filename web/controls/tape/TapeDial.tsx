import { Refused } from '../controls.tsx';
import { dialText, readTyped, refusedWords } from '@dial/core/formats';
import { FINE_TURN, type Level } from '@dial/core/level';
import { useId, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { questionAbout } from '../../browser/asking.ts';
import { hold } from '../keyboard.ts';
import { clamp, decimals, snap, type DialRange } from './quantity.ts';
import { STEP_WIDTH, Tape, TAPE_WIDTH, type OutcomeCurve } from './Tape.tsx';
import { Hint } from '../Hint.tsx';

export interface TapeDialProps {
  readonly label: string;
  readonly value: number;
  /** The value in the compared version, or null when there is none. */
  readonly was: number | null;
  readonly range: DialRange;
  /** Written before the number: `+`, `−`, or nothing. */
  readonly sign?: string;
  readonly scale: Level['scale'] | null;
  readonly curve?: OutcomeCurve | null;
  /** While it is turned, many times; nothing is kept yet. `null` goes back to the value before. */
  readonly onTurn: (value: number | null) => void;
  /** Once, with the final value. Answers why it is refused, or null. */
  readonly onSet: (value: number) => string | null;
  readonly onFocus?: () => void;
}

const COARSE = 10;
const PAGE = 10;

/** The step in force: Shift turns finely, Alt coarsely. */
const stepFor = (range: DialRange, event: { shiftKey: boolean; altKey: boolean }): number =>
  Number((range.step * (event.shiftKey ? FINE_TURN : event.altKey ? COARSE : 1)).toFixed(decimals(range.step) + 1));

/** The value a key asks for, or null when it is not a key of the dial. */
function keyed(event: KeyboardEvent, value: number, range: DialRange): number | null {
  const step = stepFor(range, event);
  switch (event.key) {
    case 'ArrowRight':
    case 'ArrowUp':
      return snap(value + step, step);
    case 'ArrowLeft':
    case 'ArrowDown':
      return snap(value - step, step);
    case 'PageUp':
      return snap(value + range.step * PAGE, range.step);
    case 'PageDown':
      return snap(value - range.step * PAGE, range.step);
    case 'Home':
      return range.low;
    case 'End':
      return range.high;
    default:
      return null;
  }
}

/** What a number that is typed begins with; a point alone is a command of the Bench. */
const BEGINS_A_NUMBER = /^[0-9−-]$/;

interface RulerOptions extends Pick<TapeDialProps, 'value' | 'was' | 'range' | 'onTurn'> {
  readonly set: (value: number) => void;
}

/** The hand on the ruler: turned by pointer and by keys, put back by Escape, or by a double press to the compared value. */
function useRuler({ value, was, range, onTurn, set }: RulerOptions) {
  const drag = useRef<{ x: number; exact: number; last: number; moved: boolean } | null>(null);
  const release = useRef<() => void>(() => undefined);
  const keying = useRef<number | null>(null);

  const commitKeys = (): void => {
    if (keying.current === null) return;
    const next = keying.current;
    keying.current = null;
    set(next);
  };
  const goBack = (): void => {
    keying.current = null;
    drag.current = null;
    release.current();
    onTurn(null);
  };

  const onPointerDown = (event: PointerEvent<HTMLDivElement>): void => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    event.currentTarget.focus();
    drag.current = { x: event.clientX, exact: value, last: value, moved: false };
    release.current = hold(goBack);
  };
  const onPointerMove = (event: PointerEvent<HTMLDivElement>): void => {
    const turning = drag.current;
    if (turning === null || event.clientX === turning.x) return;
    const width = event.currentTarget.clientWidth;
    const step = stepFor(range, event);
    // The ruler goes with the pointer: pulled to the left, larger values come under the needle.
    turning.exact = clamp(turning.exact - ((event.clientX - turning.x) * (TAPE_WIDTH / width) * step) / STEP_WIDTH, range);
    turning.x = event.clientX;
    const next = clamp(snap(turning.exact, step), range);
    if (next === turning.last) return;
    turning.last = next;
    turning.moved = true;
    onTurn(next);
  };
  const onPointerUp = (): void => {
    const turning = drag.current;
    drag.current = null;
    release.current();
    if (turning?.moved === true) set(turning.last);
  };

  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>): void => {
    if (event.key === 'Escape' && (keying.current !== null || drag.current !== null)) {
      event.stopPropagation();
      goBack();
      return;
    }
    if ((event.key === 'Delete' || event.key === 'Backspace') && was !== null) {
      event.preventDefault();
      set(was);
      return;
    }
    if (event.ctrlKey || event.metaKey) return;
    const next = keyed(event, keying.current ?? value, range);
    if (next === null) return;
    event.preventDefault();
    keying.current = clamp(next, range);
    onTurn(keying.current);
  };

  return {
    onPointerDown,
    onPointerMove,
    onPointerUp,
    onPointerCancel: goBack,
    onLostPointerCapture: () => drag.current !== null && goBack(),
    onDoubleClick: () => {
      if (was !== null) set(was);
    },
    onKeyDown,
    onKeyUp: commitKeys,
    onBlur: commitKeys,
  };
}

/**
 * A number over a ruler that slides under a needle. Drag it, use arrows and Page keys, type an exact number, or
 * double-click (Delete by keyboard) for the compared version's value.
 */
export function TapeDial({ label, value, was, range, sign = '', scale, curve = null, onTurn, onSet, onFocus }: TapeDialProps) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  // A refusal stands until the value is another one.
  const [refused, setRefused] = useState<{ readonly at: number; readonly why: string } | null>(null);
  const refusal = refused !== null && refused.at === value ? refused.why : null;
  const ruler = useRef<HTMLDivElement>(null);
  const field = useRef<HTMLInputElement>(null);
  const refuse = (why: string | null): void => setRefused(why === null ? null : { at: value, why });
  const set = (next: number): void => refuse(onSet(next));
  const handlers = useRuler({ value, was, range, onTurn, set });
  const commitTyped = (): void => {
    if (typed === null) return;
    const read = readTyped(typed, range, scale, sign);
    setTyped(null);
    const question = read.ok ? questionAbout(label, read.doubt) : null;
    if (!read.ok) refuse(refusedWords(typed, read.why, value));
    else if (question !== null) refuse(question);
    else if (read.value !== value) set(read.value);
  };

  /** A number that is typed on the ruler goes into the field. */
  const typeOn = (event: KeyboardEvent<HTMLDivElement>): void => {
    if (event.ctrlKey || event.metaKey || event.altKey || !BEGINS_A_NUMBER.test(event.key)) {
      handlers.onKeyDown(event);
      return;
    }
    event.preventDefault();
    event.stopPropagation();
    field.current?.focus();
    setTyped(event.key);
  };

  const text = sign + dialText(value);
  return (
    <div className="mt-2" data-dial={label} onFocus={onFocus} onPointerEnter={onFocus}>
      <div className="flex items-baseline gap-2">
        <label htmlFor={id} className="text-[12.5px] font-semibold">
          {label}
        </label>
        {was !== null && was !== value && (
          <Hint says="Back to the compared version’s value">
            <button
              type="button"
              className="ml-auto cursor-pointer rounded-sm px-1 text-[11px] text-soft hover:text-ink hover:underline"
              data-back=""
              aria-label={`${label} was ${dialText(was)}, go back to it`}
              onClick={() => set(was)}
            >
              was <span className="font-mono">{dialText(was)}</span>
            </button>
          </Hint>
        )}
        <span className={`flex items-baseline ${was !== null && was !== value ? '' : 'ml-auto'}`}>
          <input
            ref={field}
            id={id}
            inputMode="decimal"
            autoComplete="off"
            spellCheck={false}
            className="w-[74px] rounded-sm border border-transparent bg-transparent px-1 text-right font-mono text-[15px] font-semibold hover:border-line focus:border-ink focus:bg-card"
            value={typed ?? text}
            aria-invalid={refusal !== null}
            aria-describedby={refusal === null ? undefined : `${id}-refusal`}
            onChange={(event) => {
              setTyped(event.target.value);
              refuse(null);
            }}
            onFocus={(event) => event.target.select()}
            onBlur={commitTyped}
            onKeyDown={(event) => {
              // From the ruler the keys of the Bench work again.
              if (event.key === 'Enter') ruler.current?.focus();
              if (event.key === 'Escape') setTyped(null);
            }}
          />
          <span className="min-w-[28px] pl-1.5 text-[11px] text-soft">{range.unit}</span>
        </span>
      </div>
      <div
        ref={ruler}
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuenow={value}
        aria-valuemin={range.min}
        aria-valuemax={range.max}
        aria-valuetext={`${text} ${range.unit}`.trim()}
        className="cursor-ew-resize touch-none select-none rounded-sm"
        {...handlers}
        onKeyDown={typeOn}
      >
        <Tape value={value} was={was} range={range} curve={curve} />
      </div>
      {curve?.says !== undefined && <p className="pt-0.5 text-[10.5px] leading-tight text-soft">{curve.says}</p>}
      <Refused id={`${id}-refusal`} why={refusal} />
    </div>
  );
}
