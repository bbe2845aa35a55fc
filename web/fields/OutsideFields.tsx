import type { Level } from '@dial/core/level';
import { outsideChoices } from './eventWords.ts';
import { Select } from '../controls/Select.tsx';
import { Hint } from '../controls/Hint.tsx';

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
        <Select
          label="Player"
          value={String(stated.player)}
          options={Array.from({ length: level.players.count }, (_, at) => [String(at + 1), `player ${String(at + 1)}`])}
          onChoose={(player) => onState({ ...stated, player: Number(player) })}
        />
      )}
      <Select
        label="What happens"
        className="max-w-[130px]"
        value={stated.choice}
        options={outsideChoices(level).map(({ value, name }) => [value, name])}
        onChoose={(choice) => onState({ ...stated, choice })}
      />
      {hasAmount(level, stated) && (
        <Hint says={wrong}>
          <input
            aria-label="By"
            className={`${FIELD} w-14 font-mono`}
            value={stated.by}
            aria-invalid={wrong !== undefined}
            onChange={({ target }) => onState({ ...stated, by: target.value })}
          />
        </Hint>
      )}
    </>
  );
}
