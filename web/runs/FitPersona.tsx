import { plainNumber } from '@dial/core/formats';
import { freeId, freeName, inOrder, lastOrder, quantities, type Level, type QuantityName } from '@dial/core/level';
import { FITTED, fittedPersona, type FittedField } from '@dial/core/players';
import { useState } from 'react';
import { Link } from 'react-router';
import { Button, buttonClass, Refused } from '../controls/controls.tsx';
import { tryEdit } from '../state/document/edits.ts';
import { fitOnce } from '../state/simulation/simulation.ts';
import { walkOf } from '../state/slices/simulated.ts';
import { useAppStore } from '../state/store.ts';
import { namesOf, useReadOff } from './useReadOff.ts';
import type { ComparedRun } from './useRuns.ts';

const cellClass = 'border-b border-line/60 px-2 py-1';

/** How each number is called, and what it is. */
const NUMBERS: Readonly<Record<FittedField, readonly [name: string, quantity: QuantityName]>> = {
  haste: ['share of full speed kept', 'share'],
  reaction: ['reaction to being hurt', 'reaction'],
  reactionSpread: ['spread of reactions', 'reaction'],
  aimError: ['off the shortest way', 'aimError'],
  caution: ['detour for a point of health', 'detourFor'],
  healsBelow: ['highest health at which it healed', 'share'],
  patience: ['longest wait at what heals', 'duration'],
};

/** Who else plays is nothing to what was played. */
const withoutPersonas = (level: Level): Level => ({ ...level, personas: {} });

/** A number with its unit; a sign for degrees stands close to it. */
const inUnits = (value: number, unit: string): string => `${plainNumber(value)}${unit === '°' || unit === '' ? '' : ' '}${unit}`;

interface FitPersonaProps {
  /** Where the level is. */
  readonly at: string;
  readonly level: Level;
  readonly runs: readonly ComparedRun[];
}

/** Reads a persona off the plays that are compared: each number with how many observations it rests on; kept as a new persona. */
export function FitPersona({ at, level, runs }: FitPersonaProps) {
  const store = useAppStore();
  const { found: fit, trouble, ask } = useReadOff(level, runs, fitOnce, 'No persona could be read off these runs', withoutPersonas);
  const [kept, setKept] = useState<{ readonly id: string; readonly of: string } | null>(null);
  const of = namesOf(runs);
  const base = inOrder(level.personas)[0]?.[1];
  const keep = (): void => {
    if (fit === null || base === undefined) return;
    let id = '';
    const made = tryEdit(store, 'a persona fitted to plays', (draft) => {
      const name = freeName(draft.personas, 'fitted');
      id = freeId(draft.personas, name);
      draft.personas[id] = { ...fittedPersona(base, name, fit), order: lastOrder(draft.personas) };
    });
    if (made) setKept({ id, of });
  };
  return (
    <section aria-label="Fit a persona" className="mt-3">
      <h2 className="flex items-center gap-2 text-xs font-bold">
        A persona that plays like these
        <Button kind="quiet" className="px-1.5! py-0!" onClick={ask}>
          Read it off the runs
        </Button>
      </h2>
      <Refused why={trouble} />
      {fit !== null && base !== undefined && (
        <>
          <table className="mt-1 text-xs" aria-label="Read off the runs">
            <thead>
              <tr className="text-left text-soft">
                <th className={cellClass}>number</th>
                <th className={`${cellClass} text-right`}>in these runs</th>
                <th className={`${cellClass} text-right`}>{base.name}</th>
                <th className={`${cellClass} text-right`}>observations</th>
              </tr>
            </thead>
            <tbody>
              {FITTED.map((field) => {
                const [name, quantity] = NUMBERS[field];
                const { value, observations } = fit[field];
                const { unit } = quantities[quantity];
                return (
                  <tr key={field} className={value === null ? 'text-soft' : ''}>
                    <td className={cellClass}>{name}</td>
                    <td className={`${cellClass} text-right font-mono`}>{value === null ? 'cannot be told' : inUnits(value, unit)}</td>
                    <td className={`${cellClass} text-right font-mono text-soft`}>{inUnits(base[field], unit)}</td>
                    <td className={`${cellClass} text-right font-mono`}>{observations}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <p className="mt-1 flex items-center gap-2 text-xs text-soft">
            {kept?.of === of && kept.id in level.personas ? (
              <Link
                to={`${at}?run=${encodeURIComponent(walkOf({ personas: [kept.id] }))}`}
                className={`${buttonClass('quiet')} px-1.5! py-0!`}
              >
                Let it play
              </Link>
            ) : (
              <Button kind="quiet" className="px-1.5! py-0!" onClick={keep}>
                Keep as a persona
              </Button>
            )}
            What cannot be told from so few observations stays as {base.name} has it.
          </p>
        </>
      )}
    </section>
  );
}
