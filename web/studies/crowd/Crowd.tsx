import { parseWith, type Level } from '@dial/core/level';
import { crowdProblems, sessionCount, usualCrowd, CrowdSettings } from '@dial/core/studies';
import { useState } from 'react';
import { useVersionsQuery } from '../../state/server/lists.ts';
import type { OpenLevel } from '../../state/slices/document.ts';
import { isCrowd } from '../kept.ts';
import { Choices, Outdated, Troubles, Unfinished, useKept } from '../Kept.tsx';
import { useStudy } from '../../state/view/useStudy.ts';
import { WhoPlays } from '../WhoPlays.tsx';
import { resultOf } from './result.ts';
import { Result } from './Result.tsx';

/** Crowds of a level: who plays, what those that are kept came to, and two of them beside each other. */
export function Crowd({ open, level }: { readonly open: OpenLevel; readonly level: Level }) {
  const { search, studies, chosen, shown, trouble, choose, begin, change, stop, goOn } = useKept(open.id, 'crowd', isCrowd);
  const { data: versions = [] } = useVersionsQuery(open.id);
  const [version, setVersion] = useState('');
  const [wished, setWished] = useState<CrowdSettings | null>(null);
  const beside = search.get('beside') ?? '';
  const settings = wished ?? shown?.settings ?? (Object.keys(level.personas).length === 0 ? NOBODY : usualCrowd(level));
  const now = useStudy(open.id, chosen, resultOf);
  const was = useStudy(open.id, beside === '' ? null : beside, resultOf);
  const typed = parseWith(CrowdSettings, settings);
  const problem = (typed.ok ? crowdProblems(level, typed.value) : typed.problems)[0]?.message ?? null;
  const play = (settings: CrowdSettings): void => {
    const of = versions.find((one) => String(one.id) === version);
    void begin((revision) => {
      const name = `${of === undefined ? `revision ${String(revision)}` : `“${of.name}”`}, ${String(sessionCount(settings))} sessions`;
      return { name, settings, version: of?.id ?? null };
    });
  };
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <WhoPlays level={level} settings={settings} problem={problem} onSettings={setWished} onPlay={() => play(settings)} />
      <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto p-3 [&>*]:shrink-0">
        <Troubles all={[trouble, now.trouble, was.trouble]} />
        <Choices
          level={open.id}
          what="crowd"
          studies={studies ?? []}
          chosen={chosen}
          beside={beside}
          version={version}
          onVersion={setVersion}
          onChoose={choose}
          onChange={change}
        />
        {shown !== undefined && (
          <Unfinished key={`how far ${shown.id}`} study={shown} onStop={() => stop(shown.id)} onGoOn={() => goOn(shown.id)} />
        )}
        {shown !== undefined && (
          <Outdated study={shown} played={now.result?.level} again="Play it again" onAgain={() => play(shown.settings)} />
        )}
        {studies?.length === 0 && (
          <p className="text-soft">
            No crowd has played this level yet. Choose who plays above, and press “Play”: you will see who finishes, where they die, and
            what nobody ever touches.
          </p>
        )}
        {now.result !== null && (
          <Result
            key={`result ${now.result.study.id}`}
            result={now.result}
            was={was.result}
            path={`/levels/${encodeURIComponent(open.id)}`}
          />
        )}
      </div>
    </main>
  );
}

const NOBODY: CrowdSettings = { personas: [], seconds: 120, seed: 1, start: null };
