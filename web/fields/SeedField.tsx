import { MOST_SEED } from '@dial/core/players';

interface SeedFieldProps {
  readonly seed: number;
  readonly width: string;
  /** Told only what is a seed. */
  readonly onSeed: (seed: number) => void;
}

/** What chance goes by. */
export function SeedField({ seed, width, onSeed }: SeedFieldProps) {
  return (
    <label className="flex items-center gap-1">
      seed
      <input
        type="number"
        min={0}
        max={MOST_SEED}
        className={`rounded-sm border border-line bg-card px-1 py-0.5 text-right font-mono ${width}`}
        value={seed}
        onChange={({ target: { valueAsNumber: typed } }) => {
          if (Number.isInteger(typed) && typed >= 0 && typed <= MOST_SEED) onSeed(typed);
        }}
      />
    </label>
  );
}
