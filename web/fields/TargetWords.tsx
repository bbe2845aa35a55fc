import { readTarget, targetsIn } from '@dial/core/formats';
import type { Level, Target } from '@dial/core/level';
import { useState } from 'react';
import { Button, Refused } from '../controls/controls.tsx';

interface TargetWordsProps {
  readonly level: Level;
  /** Told the targets that were read. Answers why they are not taken. */
  readonly onTargets: (targets: readonly Target[]) => string | null;
}

/** Targets that are typed in words. What cannot be read stays, with what of it is not understood. */
export function TargetWords({ level, onTargets }: TargetWordsProps) {
  const [words, setWords] = useState('');
  const [why, setWhy] = useState<string | null>(null);
  const add = (): void => {
    const read = targetsIn(words).map((one) => readTarget(level, one));
    const wrong = read.find((one) => !one.ok);
    const refused = wrong?.ok === false ? wrong.why : onTargets(read.flatMap((one) => (one.ok ? [one.target] : [])));
    setWhy(refused === null ? null : `Not added: ${refused}.`);
    if (refused === null) setWords('');
  };
  return (
    <form
      className="flex max-w-96 grow flex-wrap items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <input
        type="text"
        aria-label="A target in words"
        placeholder="30 to 50 % of hasty players lose a life"
        maxLength={600}
        className="w-72 min-w-0 flex-1 rounded-sm border border-line bg-card px-1.5 py-0.5"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <Button
        kind="quiet"
        className="px-1.5! py-0!"
        hint="a target that the level states from now on"
        disabled={words.trim() === ''}
        onClick={add}
      >
        + target
      </Button>
      <div className="w-full empty:hidden">
        <Refused why={why} />
      </div>
    </form>
  );
}
