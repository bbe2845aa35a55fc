import { entry, inOrder, type Level } from '@dial/core/level';
import { sessionCount, type CrowdSettings } from '@dial/core/studies';
import { Button, Refused } from '../controls/controls.tsx';
import { Select } from '../controls/Select.tsx';
import { SeedField } from '../fields/SeedField.tsx';

interface NumberFieldProps {
  readonly label: string;
  readonly value: number;
  readonly onValue: (value: number) => void;
}

/** A number that is typed, told as it stands: what it should not be is said beside the button that plays it. */
function NumberField({ label, value, onValue }: NumberFieldProps) {
  return (
    <input
      type="number"
      aria-label={label}
      className="w-14 rounded-sm border border-line bg-card px-1 py-0.5 font-mono"
      min={1}
      value={Number.isNaN(value) ? '' : value}
      onChange={({ target }) => onValue(target.valueAsNumber)}
    />
  );
}

interface WhoPlaysProps {
  readonly level: Level;
  readonly settings: CrowdSettings;
  /** Why it cannot be played; null: it can. */
  readonly problem: string | null;
  readonly onSettings: (settings: CrowdSettings) => void;
  readonly onPlay: () => void;
  /** What the button says; else how many sessions are played. */
  readonly begin?: string;
}

/** Who plays how often, how long, from which seed and state; and the way to begin. */
export function WhoPlays({ level, settings, problem, onSettings, onPlay, begin }: WhoPlaysProps) {
  const { personas, seconds, seed, start } = settings;
  const left = inOrder(level.personas).filter(([id]) => !personas.some(({ persona }) => persona === id));
  const change = (persona: string, sessions: number): void =>
    onSettings({ ...settings, personas: personas.map((one) => (one.persona === persona ? { persona, sessions } : one)) });
  return (
    <div
      className="flex flex-wrap items-center gap-x-2 gap-y-1.5 border-b border-line bg-panel px-2.5 py-2 text-xs"
      role="group"
      aria-label="Who plays"
    >
      <b className="text-soft">who plays</b>
      {personas.map(({ persona, sessions }) => {
        const name = entry(level.personas, persona)?.name ?? persona;
        return (
          <span key={persona} className="flex items-center gap-1 rounded-sm border border-line bg-card px-1.5 py-0.5">
            <b>{name}</b>
            <NumberField label={`Sessions of ${name}`} value={sessions} onValue={(count) => change(persona, count)} />
            <button
              type="button"
              className="cursor-pointer px-0.5 hover:text-harm"
              aria-label={`Without ${name}`}
              onClick={() => onSettings({ ...settings, personas: personas.filter((one) => one.persona !== persona) })}
            >
              ×
            </button>
          </span>
        );
      })}
      {left.length > 0 && (
        <Select
          label="One more persona"
          value=""
          options={[['', '+ persona'], ...left.map(([id, { name }]) => [id, name] as const)]}
          onChoose={(id) =>
            id !== '' && onSettings({ ...settings, personas: [...personas, { persona: id, sessions: personas.at(-1)?.sessions ?? 100 }] })
          }
        />
      )}
      <span className="ml-2 flex items-center gap-1">
        up to
        <NumberField label="Seconds at most" value={seconds} onValue={(value) => onSettings({ ...settings, seconds: value })} />s
      </span>
      <SeedField seed={seed} width="w-14" onSeed={(value) => onSettings({ ...settings, seed: value })} />
      {Object.keys(level.tries).length > 0 && (
        <Select
          label="Starting state of the crowd"
          value={start ?? ''}
          options={[['', 'from its start'], ...inOrder(level.tries).map(([id, { name }]) => [id, `from ${name}`] as const)]}
          onChoose={(id) => onSettings({ ...settings, start: id === '' ? null : id })}
        />
      )}
      <span className="ml-auto flex items-center gap-2">
        <Refused why={problem} />
        <Button kind="strong" disabled={problem !== null} onClick={onPlay}>
          {begin ?? (problem === null ? `Play ${String(sessionCount(settings))} sessions` : 'Play')}
        </Button>
      </span>
    </div>
  );
}
