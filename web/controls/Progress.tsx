import { Progress as Radix } from 'radix-ui';

interface ProgressProps {
  readonly label: string;
  readonly done: number;
  readonly of: number;
}

/** How much of a long work is done. */
export function Progress({ label, done, of }: ProgressProps) {
  return (
    <Radix.Root
      aria-label={label}
      value={done}
      max={Math.max(1, of)}
      className="h-2 w-28 overflow-hidden rounded-sm border border-ink bg-card"
    >
      <Radix.Indicator className="block h-full bg-ink" style={{ width: `${String((done / Math.max(1, of)) * 100)}%` }} />
    </Radix.Root>
  );
}
