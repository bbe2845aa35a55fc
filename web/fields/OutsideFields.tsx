import type { Level } from '@dial/core/level';
import { outsideChoices } from './eventWords.ts';

const FIELD = 'rounded-sm border border-line bg-card px-1 py-0.5';

/** What is to happen from outside, as it is being stated. */
export interface Stated {
  readonly player: number;
  /** As in the list of what can happen. */
  readonly choice: string;
  /** By how much, as typed. */
  readonly by: string;
}

/** Whether what is chosen is by an amount. */
export const hasAmount = (level: Level, { choice }: Stated): boolean =>
  outsideChoices(level).find(({ value }) => value === choice)?.hasAmount === true;

interface OutsideFieldsProps {
  readonly level: Level;
  readonly stated: Stated;
  /** Why the amount cannot be. */
  readonly wrong?: string | undefined;
  readonly onState: (stated: Stated) => void;
}

/** Whom something happens to from outside, what, and by how much. */
export function OutsideFields({ level, stated, wrong, onState }: OutsideFieldsProps) {
  return (
    <>
      {level.players.count > 1 && (
        <select
          aria-label="Player"
          className={FIELD}
          value={stated.player}
          onChange={({ target }) => onState({ ...stated, player: Number(target.value) })}
        >
          {Array.from({ length: level.players.count }, (_, at) => (
            <option key={at} value={at + 1}>
              player {at + 1}
            </option>
          ))}
        </select>
      )}
      <select
        aria-label="What happens"
        className={`${FIELD} max-w-[130px]`}
        value={stated.choice}
        onChange={({ target }) => onState({ ...stated, choice: target.value })}
      >
        {outsideChoices(level).map(({ value, name }) => (
          <option key={value} value={value}>
            {name}
          </option>
        ))}
      </select>
      {hasAmount(level, stated) && (
        <input
          aria-label="By"
          className={`${FIELD} w-14 font-mono`}
          value={stated.by}
          aria-invalid={wrong !== undefined}
          title={wrong}
          onChange={({ target }) => onState({ ...stated, by: target.value })}
        />
      )}
    </>
  );
}
