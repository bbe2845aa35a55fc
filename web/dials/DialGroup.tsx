import { type Level, readAt, type DialSpec } from '@dial/core/level';
import { useState } from 'react';
import { documentActions } from '../state/slices/document.ts';
import { setValue, turnDial } from '../state/document/edits.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store.ts';
import { TapeDial } from '../controls/tape/TapeDial.tsx';
import { OwnMark } from './OwnMark.tsx';
import { useOutcomeCurve } from './useOutcomeCurve.ts';
import { useSweptCurve } from './useSweptCurve.ts';

/** Goes to the dial of a number in the sentence. Answers whether there is one. */
export function focusDial(path: string): boolean {
  const dial = document.querySelector<HTMLElement>(`[data-path="${CSS.escape(path)}"] [role=slider]`);
  dial?.scrollIntoView({ block: 'nearest' });
  dial?.focus();
  return dial !== null;
}

/** A column may have hundreds of dials: those out of sight are not painted. Room at the sides for the ring around the one in hand. */
const UNSEEN = '-mx-1.5 px-1.5 pb-1 [contain-intrinsic-height:auto_60px] [content-visibility:auto]';

/** Dials under the names of their groups. */
export function DialGroup({ specs, level }: { readonly specs: readonly DialSpec[]; readonly level: Level }) {
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const compared = useAppSelector((state) => state.document.compared?.level ?? null);
  const [looking, setLooking] = useState<string | null>(null);
  const inHand = specs.find(({ path }) => path === looking) ?? null;
  const swept = useSweptCurve(inHand);
  const tried = useOutcomeCurve(swept === null ? inHand : null);
  const curve = swept ?? tried;
  const groups = [...new Set(specs.map(({ group }) => group))];
  return (
    // Where there is room for two columns of them, groups go on in the second.
    <div className="gap-x-5 @min-[560px]:columns-2">
      {groups.map((group) => (
        <section key={group} aria-label={group} className="break-inside-avoid">
          <h3 className="border-b border-line pt-3 pb-0.5 text-[11px] font-bold text-soft">{group}</h3>
          {specs
            .filter((spec) => spec.group === group)
            .map((spec) => {
              const was = compared === null ? undefined : readAt(compared, spec.paths[0] ?? spec.path);
              return (
                <div key={spec.path} data-path={spec.path} data-paths={spec.paths.join(' ')} className={UNSEEN}>
                  <TapeDial
                    label={spec.label}
                    value={spec.value}
                    was={typeof was === 'number' ? was : null}
                    range={spec.range}
                    sign={spec.sign}
                    scale={level.scale}
                    curve={looking === spec.path ? curve : null}
                    onTurn={(value) => {
                      if (value === null) dispatch(documentActions.turned(null));
                      else turnDial(store, spec.paths, value);
                    }}
                    onSet={(value) => setValue(store, spec.paths, spec.label, value)}
                    onFocus={() => setLooking(spec.path)}
                  />
                  <OwnMark level={level} spec={spec} />
                </div>
              );
            })}
        </section>
      ))}
    </div>
  );
}
