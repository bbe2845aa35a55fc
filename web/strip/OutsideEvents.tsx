import { clockTime, dialText, readTyped, refusedWords } from '@dial/core/formats';
import { quantities, type Level } from '@dial/core/level';
import type { Outside } from '@dial/core/players';
import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { useNavigate } from 'react-router';
import { canTakeBack, changeEvents, previewEvents, takeBackEvents, withOneMore } from '../state/sync/outside.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import type { TimeView } from '../drawing/lanes/laneDrawing.ts';
import { Typed } from '../fields/fieldInputs.tsx';
import { hasAmount, OutsideFields, type Stated } from '../fields/OutsideFields.tsx';
import { useOnce } from '../controls/hooks/useOnce.ts';
import { AxisPopover } from './AxisPopover.tsx';
import { outsideChoices, outsideOf, outsideWords } from '../fields/eventWords.ts';
import { Hint } from '../controls/Hint.tsx';

const NO_EVENTS: readonly Outside[] = [];

/** What happens to the run on the Strip from outside, and the ways to change it. */
function useEvents() {
  const store = useAppStore();
  const navigate = useNavigate();
  const run = useAppSelector((state) => state.simulated.run ?? null);
  const steps = useAppSelector((state) => state.playback.steps);
  const events = run?.run.events ?? NO_EVENTS;
  const rate = run?.run.rate ?? 60;
  const within = (step: number): number => Math.max(1, Math.min(steps, Math.round(step)));
  const change = async (next: readonly Outside[], were?: readonly Outside[]): Promise<void> => {
    await changeEvents(store, next, were);
    // A walk that became a run is shown under its own address.
    const shown = store.getState().simulated.run?.id;
    if (shown !== undefined && shown !== run?.id) await navigate(`?run=${shown}`, { replace: true });
  };
  return { store, run, steps, events, rate, within, change };
}

interface MarksProps {
  readonly level: Level;
  readonly view: TimeView;
  readonly left: number;
  readonly width: number;
}

/** The events over the Strip: dragged or moved by the arrow keys, deleted by Delete. */
export function EventMarks({ level, view, left, width }: MarksProps) {
  const { store, steps, events, rate, within, change } = useEvents();
  const [drag, setDrag] = useState<{ readonly index: number; readonly were: readonly Outside[]; readonly step: number } | null>(null);
  const moved = (list: readonly Outside[], index: number, step: number): Outside[] =>
    list.map((event, at) => (at === index ? { ...event, step: within(step) } : event));
  const onKeyDown = (event: KeyboardEvent, index: number, step: number): void => {
    const tenth = event.shiftKey ? 1 : Math.max(1, Math.round(rate / 10));
    const by = { ArrowRight: tenth, ArrowLeft: -tenth }[event.key];
    if (event.key === 'Escape' && drag !== null) {
      setDrag(null);
      previewEvents(store, drag.were);
    } else if (drag !== null) return;
    else if (by !== undefined) void change(moved(events, index, step + by));
    else if (event.key === 'Delete' || event.key === 'Backspace') void change(events.filter((_, at) => at !== index));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const follow = (event: PointerEvent): void => {
    if (drag === null) return;
    const { x } = event.currentTarget.parentElement?.getBoundingClientRect() ?? { x: 0 };
    const seconds = view.from + ((event.clientX - x - left) / width) * (view.to - view.from);
    const step = within(seconds * rate + 1);
    setDrag({ ...drag, step });
    previewEvents(store, moved(drag.were, drag.index, step));
  };
  const drop = (): void => {
    setDrag(null);
    if (drag === null) return;
    if (drag.step === drag.were[drag.index]?.step) previewEvents(store, drag.were);
    else void change(moved(drag.were, drag.index, drag.step), drag.were);
  };
  // While one is dragged the list stays in its order, so that the one that is held stays the one.
  const shown = drag === null ? events : moved(drag.were, drag.index, drag.step);
  return shown.map((event, index) => {
    const seconds = (event.step - 1) / rate;
    const share = (seconds - view.from) / (view.to - view.from);
    if (share < 0 || share > 1) return null;
    const words = outsideWords(level, event);
    return (
      <Hint key={index} says={`${clockTime(seconds)} from outside: ${words}. Drag it, or ← → · Delete`}>
        <div
          role="slider"
          tabIndex={0}
          aria-label={`From outside, ${words}`}
          aria-valuemin={0}
          aria-valuemax={Number((steps / rate).toFixed(2))}
          aria-valuenow={Number(seconds.toFixed(2))}
          aria-valuetext={clockTime(seconds)}
          className="absolute top-[11px] z-20 h-[9px] w-[9px] -translate-x-1/2 rotate-45 cursor-ew-resize touch-none border-[1.5px] border-ink bg-card outline-offset-2 before:absolute before:-inset-1.5"
          style={{ left: left + share * width }}
          onKeyDown={(pressed) => onKeyDown(pressed, index, event.step)}
          onPointerDown={(pressed) => {
            pressed.currentTarget.setPointerCapture(pressed.pointerId);
            setDrag({ index, were: events, step: event.step });
          }}
          onPointerMove={follow}
          onPointerUp={drop}
          onLostPointerCapture={drop}
        />
      </Hint>
    );
  });
}

/** The list of what happens from outside, and a form for one more at the needle. */
export function EventList({ level }: { readonly level: Level }) {
  const { store, run, events, rate, within, change } = useEvents();
  const needleStep = useAppSelector((state) => state.playback.needleStep);
  const [stated, setStated] = useState<Stated>({ player: 1, choice: outsideChoices(level)[0]?.value ?? 'leave', by: '-25' });
  const [, once] = useOnce();
  const [, onceBack] = useOnce();
  const read = readTyped(stated.by, quantities.meterValue, null);
  const amount = read.ok ? read.value : 0;
  const wrong = hasAmount(level, stated) && amount === 0;
  const add = (): void => {
    if (wrong) return;
    once(() => change(withOneMore(events, outsideOf(stated.choice, within(needleStep + 1), stated.player, amount))));
  };
  const moveTo = (index: number, step: number, typed: string): string | null => {
    const at = readTyped(typed, quantities.duration, level.scale);
    if (!at.ok) return refusedWords(typed, at.why, (step - 1) / rate);
    void change(events.map((one, other) => (other === index ? { ...one, step: within(at.value * rate + 1) } : one)));
    return null;
  };
  return (
    <AxisPopover
      label="From outside"
      hint="What happens from outside: a loss, an item, a notice, a player joining or leaving"
      text={events.length === 0 ? 'events' : `events ${String(events.length)}`}
      width="w-[330px]"
    >
      <form
        className="flex flex-wrap items-center gap-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <span className="w-full text-soft">From outside, at the needle ({clockTime(needleStep / rate)}):</span>
        <OutsideFields level={level} stated={stated} wrong={wrong ? 'a number other than 0' : undefined} onState={setStated} />
        <Button kind="strong" type="submit" className="py-0.5!" disabled={wrong || run === null}>
          Add
        </Button>
      </form>
      {wrong && <p className="mt-1 text-harm">By how much? A number other than 0, such as −25.</p>}
      {events.length === 0 ? (
        <p className="mt-2 text-soft">
          Nothing happens to this run from outside yet. What is added stands over the Strip as ◇, to be dragged.
        </p>
      ) : (
        <ul className="mt-1 max-h-24 overflow-y-auto">
          {events.map((event, index) => (
            <li key={index} className="flex items-start gap-1.5 py-px">
              <div className="min-w-0 flex-1">
                <Typed
                  label={outsideWords(level, event)}
                  labelWidth="w-[128px]"
                  hint="When it happens"
                  text={dialText((event.step - 1) / rate)}
                  unit="s"
                  read={(typed) => moveTo(index, event.step, typed)}
                />
              </div>
              <Button kind="quiet" className="mt-1 py-0!" onClick={() => void change(events.filter((_, at) => at !== index))}>
                Delete<span className="sr-only"> {outsideWords(level, event)}</span>
              </Button>
            </li>
          ))}
        </ul>
      )}
      {run !== null && canTakeBack(run.id) && (
        <Button kind="quiet" className="mt-1.5 py-0!" onClick={() => onceBack(() => takeBackEvents(store))}>
          Take the last change back
        </Button>
      )}
    </AxisPopover>
  );
}
