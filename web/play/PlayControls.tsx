import { MOST_SEED } from '@dial/core/players';
import type { ReactNode } from 'react';
import { Select } from '../controls/Select.tsx';
import { Radios } from '../controls/Radios.tsx';
import { Button } from '../controls/controls.tsx';
import type { Sound } from './remembered.ts';
import { Hint } from '../controls/Hint.tsx';
import { SeedField } from '../fields/SeedField.tsx';
import { Slider } from '../controls/Slider.tsx';

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
  readonly personas: readonly (readonly [id: string, name: string])[];
  /** Who plays each player: a persona by its id, or the keys. */
  readonly seats: readonly { readonly player: number; readonly persona: string | undefined }[];
  readonly onSeat: (player: number, persona: string | undefined) => void;
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
  const { paused, over, speed, sound, slow, tries, startFrom, seed, seats } = props;
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-2 gap-y-1 border-t border-line bg-paper px-2.5 py-1.5 text-xs">
      <Button kind="quiet" className="py-0.5!" keys="P" onClick={props.onToggle} disabled={over}>
        {paused ? 'Go on' : 'Pause'}
      </Button>
      <Button kind="quiet" className="py-0.5!" hint="One step of the session" keys="N" onClick={props.onStep} disabled={over}>
        One step
      </Button>
      <Button kind="quiet" className="py-0.5!" keys="R" onClick={props.onRestart}>
        Restart
      </Button>
      <Radios
        label="speed"
        hint="[ slower, ] faster"
        className="min-w-6 text-center font-mono"
        value={String(speed)}
        options={SPEEDS.map((one) => [String(one), SPEED_NAMES[one] ?? String(one), String(one)])}
        onChoose={(chosen) => props.onSpeed(SPEEDS.find((one) => String(one) === chosen) ?? 1)}
      />
      <span className="flex items-center gap-1.5">
        <Button
          kind="quiet"
          className="py-0.5!"
          keys="M"
          aria-pressed={!sound.muted}
          onClick={() => props.onSound({ ...sound, muted: !sound.muted })}
        >
          {sound.muted ? 'Sound off' : 'Sound on'}
        </Button>
        <Slider
          label="Volume"
          className="w-14"
          value={sound.volume}
          disabled={sound.muted}
          onChange={(volume) => props.onSound({ ...sound, volume })}
        />
      </span>
      {seed !== null && (
        <Hint says="What is left to chance comes out otherwise with another seed. The play begins again.">
          <span className="flex items-center gap-1">
            <SeedField seed={seed} width="w-10" onSeed={props.onSeed} />
            <Button kind="quiet" className="py-0.5!" onClick={() => props.onSeed((seed + 1) % (MOST_SEED + 1))}>
              Another
            </Button>
          </span>
        </Hint>
      )}
      {seats.map(({ player, persona }) => (
        <Hint key={player} says="A persona may play beside you, take over from you, and be taken over from.">
          <span>
            <Select
              label={`Who plays player ${String(player + 1)}`}
              className="max-w-[104px]"
              value={persona ?? ''}
              options={[['', seats.length === 1 ? 'you play' : `you play ${String(player + 1)}`], ...props.personas]}
              onChoose={(id) => props.onSeat(player, id === '' ? undefined : id)}
            />
          </span>
        </Hint>
      ))}
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
      <Button kind="quiet" className="py-0.5!" keys="G" onClick={props.onFullScreen}>
        Full screen
      </Button>
      {props.keys}
      {/* In the place of the keys: a line more would make the level smaller, and all of it drawn anew. */}
      <Hint says={props.keysText}>
        <span className="w-full truncate text-[11.5px] text-soft">
          {slow ? (
            <b role="alert" className="text-harm">
              This machine is too slow for this speed: the session runs slower, and nothing of it is skipped.
            </b>
          ) : (
            `${props.keysText} · a gamepad works too`
          )}
        </span>
      </Hint>
    </div>
  );
}
