import { MOST_SEED } from '@dial/core/players';
import { useState } from 'react';
import { Refused } from '../controls/controls.tsx';

interface SeedFieldProps {
  readonly seed: number;
  readonly width: string;
  /** Told only what is a seed. */
  readonly onSeed: (seed: number) => void;
}

/** What chance goes by. What is typed and is no seed is told of and stands there until the field is left. */
export function SeedField({ seed, width, onSeed }: SeedFieldProps) {
  const [refused, setRefused] = useState<number | null>(null);
  return (
    <span className="flex items-center gap-1">
      <label className="flex items-center gap-1">
        seed
        <input
          type="number"
          min={0}
          max={MOST_SEED}
          className={`rounded-sm border border-line bg-card px-1 py-0.5 text-right font-mono aria-invalid:border-harm ${width}`}
          aria-invalid={refused !== null}
          value={refused === null ? seed : Number.isNaN(refused) ? '' : refused}
          onChange={({ target: { valueAsNumber: typed } }) => {
            const isSeed = Number.isInteger(typed) && typed >= 0 && typed <= MOST_SEED;
            setRefused(isSeed ? null : typed);
            if (isSeed) onSeed(typed);
          }}
          onBlur={() => setRefused(null)}
        />
      </label>
      <Refused why={refused === null || Number.isNaN(refused) ? null : `a whole number up to ${String(MOST_SEED)}`} />
    </span>
  );
}
