import { MOST_SEED } from '@dial/core/players';
import type { ReactNode } from 'react';
import { Select } from '../controls/Select.tsx';
import { Button } from '../controls/controls.tsx';
import type { Sound } from './remembered.ts';

/** Session seconds in a second. */
export const SPEEDS: readonly number[] = [0.25, 0.5, 1, 2, 4];
const SPEED_NAMES: Readonly<Record<number, string>> = { 0.25: '¼', 0.5: '½', 1: '1', 2: '2', 4: '4' };

interface PlayControlsProps {
  readonly paused: boolean;
  readonly over: boolean;
  readonly speed: number;
  readonly sound: Sound;
  readonly slow: boolean;
  /** What the players' keys do, in a line. */
  readonly keysText: string;
  /** Where keys are chosen. */
  readonly keys: ReactNode;
  readonly tries: readonly (readonly [id: string, name: string])[];
  readonly startFrom: string | null;
  /** What chance goes by; null where the run that is taken over says it. */
  readonly seed: number | null;
  /** Begins again with another seed. */
  readonly onSeed: (seed: number) => void;
  readonly onToggle: () => void;
  readonly onStep: () => void;
  readonly onSpeed: (speed: number) => void;
  readonly onRestart: () => void;
  readonly onFullScreen: () => void;
  readonly onSound: (sound: Sound) => void;
  readonly onStartFrom: (id: string | null) => void;
}

/** The bar under the level: halting, stepping, speed, sound, and where one starts. */
export function PlayControls(props: PlayControlsProps) {
  const { paused, over, speed, sound, slow, tries, startFrom, seed } = props;
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-2 gap-y-1 border-t border-line bg-paper px-2.5 py-1.5 text-xs">
      <Button kind="quiet" className="py-0.5!" title="P" onClick={props.onToggle} disabled={over}>
        {paused ? 'Go on' : 'Pause'}
      </Button>
      <Button kind="quiet" className="py-0.5!" title="N: one step of the session" onClick={props.onStep} disabled={over}>
        One step
      </Button>
      <Button kind="quiet" className="py-0.5!" title="R" onClick={props.onRestart}>
        Restart
      </Button>
      <fieldset className="flex items-center gap-1" title="[ slower, ] faster">
        <legend className="float-left mr-1 text-soft">speed</legend>
        {SPEEDS.map((one) => (
          <label
            key={one}
            className={`min-w-6 cursor-pointer rounded-sm border px-1.5 text-center font-mono has-focus-visible:outline-2 ${speed === one ? 'border-ink bg-card font-semibold' : 'border-line'}`}
          >
            <input
              type="radio"
              name="speed"
              className="sr-only"
              aria-label={String(one)}
              checked={speed === one}
              onChange={() => props.onSpeed(one)}
            />
            {SPEED_NAMES[one]}
          </label>
        ))}
      </fieldset>
      <span className="flex items-center gap-1.5">
        <Button
          kind="quiet"
          className="py-0.5!"
          title="M"
          aria-pressed={!sound.muted}
          onClick={() => props.onSound({ ...sound, muted: !sound.muted })}
        >
          {sound.muted ? 'Sound off' : 'Sound on'}
        </Button>
        <input
          type="range"
          aria-label="Volume"
          className="w-12 accent-ink"
          min={0}
          max={1}
          step={0.05}
          value={sound.volume}
          disabled={sound.muted}
          onChange={({ target }) => props.onSound({ ...sound, volume: Number(target.value) })}
        />
      </span>
      {seed !== null && (
        <span
          className="flex items-center gap-1"
          title="What is left to chance comes out otherwise with another seed. The play begins again."
        >
          <label className="flex items-center gap-1">
            seed
            <input
              type="number"
              min={0}
              max={MOST_SEED}
              className="w-10 rounded-sm border border-line bg-card px-1 py-0.5 text-right font-mono"
              value={seed}
              onChange={({ target }) => {
                const typed = target.valueAsNumber;
                if (Number.isInteger(typed) && typed >= 0 && typed <= MOST_SEED) props.onSeed(typed);
              }}
            />
          </label>
          <Button kind="quiet" className="py-0.5!" onClick={() => props.onSeed((seed + 1) % (MOST_SEED + 1))}>
            Another
          </Button>
        </span>
      )}
      {tries.length > 0 && (
        <label className="flex items-center gap-1.5">
          start from
          <Select
            label="start from"
            className="max-w-[92px]"
            value={startFrom ?? ''}
            options={[['', 'the level’s start'], ...tries]}
            onChoose={(id) => props.onStartFrom(id === '' ? null : id)}
          />
        </label>
      )}
      <Button kind="quiet" className="py-0.5!" title="G" onClick={props.onFullScreen}>
        Full screen
      </Button>
      {props.keys}
      {/* In the place of the keys: a line more would make the level smaller, and all of it drawn anew. */}
      <span className="w-full truncate text-[11.5px] text-soft" title={props.keysText}>
        {slow ? (
          <b role="alert" className="text-harm">
            This machine is too slow for this speed: the session runs slower, and nothing of it is skipped.
          </b>
        ) : (
          `${props.keysText} · a gamepad works too`
        )}
      </span>
    </div>
  );
}
