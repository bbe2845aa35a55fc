import type { Finding, Severity } from '@dial/core/findings';
import { differenceWords } from '@dial/core/formats';
import { kindOfPlacement, segmentsOf, type Level } from '@dial/core/level';
import { useEffect, useState } from 'react';
import { Button } from '../controls/controls.tsx';
import { Folded } from '../controls/Folded.tsx';
import { SetAside } from '../controls/SetAside.tsx';
import { writeTo } from '../state/document/changes.ts';
import { preview, tryEdit } from '../state/document/edits.ts';
import { setAside } from '../state/document/meant.ts';
import { documentActions } from '../state/slices/document.ts';
import { findingsActions, openFindings, shownFindings } from '../state/slices/findings.ts';
import { viewActions } from '../state/slices/view.ts';
import { useAppDispatch, useAppSelector, useAppStore, type AppStore } from '../state/store.ts';

/** The gravest first. */
const LOOKS: Readonly<Record<Severity, string>> = {
  'breaks it': 'text-harm font-bold',
  'probably not meant': 'font-bold',
  'worth a look': 'text-soft',
};

const recipeOf =
  ({ changes }: NonNullable<Finding['mend']>) =>
  (draft: Level): void => {
    for (const { path, value } of changes) writeTo(draft, path, value);
  };

/** Chooses what a finding is on, so that its dials are shown. */
function showPlace(store: AppStore, level: Level, { where, at }: Finding): void {
  const [map, id] = segmentsOf(at);
  const [first] = where.placements;
  if (map === 'points' && id !== undefined) store.dispatch(viewActions.selected({ spot: `/points/${id}` }));
  else if (where.placements.length > 0 && first !== undefined) {
    const kind = level.placements[first]?.kind ?? null;
    store.dispatch(viewActions.selected({ kind, placements: kindOfPlacement(level, first) === undefined ? [] : where.placements }));
  } else if ((map === 'kinds' || map === 'variants') && id !== undefined) store.dispatch(viewActions.selected({ kind: id }));
  else store.dispatch(viewActions.selected({}));
}

/** What a mend would change, before anything is: the session is shown with it meanwhile. */
function MendPreview({ finding, level, onClose }: { readonly finding: Finding; readonly level: Level; readonly onClose: () => void }) {
  const store = useAppStore();
  const turning = useAppSelector((state) => state.document.turning);
  const { mend } = finding;
  useEffect(() => {
    if (mend !== null) preview(store, recipeOf(mend));
    return () => void store.dispatch(documentActions.turned(null));
  }, [store, mend]);
  if (mend === null) return null;
  const words = turning === null ? [] : differenceWords(level, turning).map((one) => one.words);
  return (
    <div role="group" aria-label="Mend, shown first" className="mt-1 rounded-sm border-[1.3px] border-needle bg-card px-2 py-1.5">
      <p>
        <b>{mend.words}</b>; Plan and session show it already. Nothing is changed yet.
      </p>
      <ul className="font-mono text-[11px]">
        {words.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <span className="mt-1 flex gap-2">
        <Button
          kind="strong"
          onClick={() => {
            if (tryEdit(store, mend.words, recipeOf(mend))) onClose();
          }}
        >
          Mend it
        </Button>
        <Button kind="quiet" onClick={onClose}>
          Leave it
        </Button>
      </span>
    </div>
  );
}

type Doing = 'mend' | 'set aside' | null;

function FindingRow({ finding, level }: { readonly finding: Finding; readonly level: Level }) {
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const pointed = useAppSelector((state) => state.findings.pointed === finding.id);
  const [doing, setDoing] = useState<Doing>(null);
  const point = (): void => void dispatch(findingsActions.pointed(finding.id));
  return (
    <li
      className={`border-b border-line/60 px-2.5 py-1.5 ${pointed ? 'bg-panel' : ''}`}
      aria-label={finding.what}
      onPointerEnter={point}
      onFocus={point}
    >
      <div className="flex items-baseline gap-3">
        <span className={`w-[118px] shrink-0 ${LOOKS[finding.severity]}`}>{finding.severity}</span>
        <p className="min-w-0 flex-1">
          <button
            type="button"
            className="cursor-pointer text-left font-semibold hover:underline"
            onClick={() => showPlace(store, level, finding)}
          >
            {finding.what}
          </button>{' '}
          {finding.why}
          {finding.meant !== null && <span className="text-soft"> Set aside: {finding.meant}.</span>}
        </p>
        <span className="flex shrink-0 gap-1.5">
          {finding.mend !== null && finding.meant === null && (
            <Button
              kind="quiet"
              className="px-1.5! py-0!"
              hint={finding.mend.words}
              onClick={() => setDoing(doing === 'mend' ? null : 'mend')}
            >
              Mend …
            </Button>
          )}
          {finding.meant === null ? (
            <Button kind="quiet" className="px-1.5! py-0!" onClick={() => setDoing(doing === 'set aside' ? null : 'set aside')}>
              Meant so …
            </Button>
          ) : (
            <Button
              kind="quiet"
              className="px-1.5! py-0!"
              onClick={() =>
                tryEdit(store, `no more set aside: ${finding.what}`, (draft) => {
                  writeTo(draft, `/meant/${finding.key}`, undefined);
                })
              }
            >
              Take back
            </Button>
          )}
        </span>
      </div>
      {doing === 'mend' && <MendPreview finding={finding} level={level} onClose={() => setDoing(null)} />}
      {doing === 'set aside' && <SetAside onKeep={(reason) => setAside(store, finding, reason)} onClose={() => setDoing(null)} />}
    </li>
  );
}

/** What is wrong with the level, or worth a look, the gravest first; each with its mend, and what is set aside at the end. */
export function Findings({ level }: { readonly level: Level }) {
  const found = useAppSelector((state) => state.findings.found);
  const dispatch = useAppDispatch();
  useEffect(() => () => void dispatch(findingsActions.pointed(null)), [dispatch]);
  const open = useAppSelector(openFindings);
  const shown = useAppSelector(shownFindings);
  const byCrowd = shown.filter(({ meant }) => meant === null);
  const aside = [...(found?.findings ?? []), ...shown].filter(({ meant }) => meant !== null);
  const counts = Object.keys(LOOKS).flatMap((severity) => {
    const count = open.filter((one) => one.severity === severity).length;
    return count === 0 ? [] : [`${String(count)} ${severity}`];
  });
  return (
    <section aria-label="Findings" className="h-full overflow-y-auto rounded-sm border-[1.3px] border-ink bg-card text-xs">
      <p role="status" tabIndex={0} className="border-b border-line bg-panel px-2.5 py-1">
        <b>
          {found === null
            ? 'Looking for mistakes …'
            : open.length === 0
              ? 'Nothing is wrong that can be seen before anybody plays.'
              : counts.join(' · ')}
        </b>
        {open.length > 0 && <span className="text-soft"> · point at one to see it on the Plan, press it to come to its dials</span>}
      </p>
      <ul aria-label="What is found">
        {open.map((finding) => (
          <FindingRow key={finding.id} finding={finding} level={level} />
        ))}
      </ul>
      {byCrowd.length > 0 && (
        <>
          <p className="border-b border-line bg-panel px-2.5 py-1">
            <b>Shown by the crowd beside the run</b>
          </p>
          <ul aria-label="What the crowd shows">
            {byCrowd.map((finding) => (
              <FindingRow key={finding.id} finding={finding} level={level} />
            ))}
          </ul>
        </>
      )}
      {aside.length > 0 && (
        <Folded name="findings set aside" heading={`${String(aside.length)} set aside`} className="px-2.5 py-1" headingClass="text-soft">
          <ul aria-label="Set aside">
            {aside.map((finding) => (
              <FindingRow key={finding.id} finding={finding} level={level} />
            ))}
          </ul>
        </Folded>
      )}
    </section>
  );
}
