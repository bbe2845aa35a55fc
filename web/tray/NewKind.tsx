import { entry, kindBeginnings, kindOf, type Level } from '@dial/core/level';
import { useCallback, useEffect, useRef } from 'react';
import { makeKind, makeVariant } from '../state/document/authoring.ts';
import { viewActions } from '../state/slices/view.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import { roleColour } from '../drawing/roles.ts';
import { useAwayPress } from '../controls/useAwayPress.ts';

/** Makes a kind, from what it begins as or based on the chosen one. */
export function NewKind({ level, selected }: { readonly level: Level; readonly selected: string | null }) {
  const store = useAppStore();
  const open = useAppSelector((state) => state.view.panel === 'new kind');
  const setOpen = useCallback((shown: boolean) => store.dispatch(viewActions.panelShown(shown ? 'new kind' : null)), [store]);
  const root = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!open) return;
    root.current?.querySelector<HTMLElement>('[role=menuitem]')?.focus();
  }, [open]);
  const close = useCallback(() => setOpen(false), [setOpen]);
  useAwayPress(root, open, close);
  const choose = (make: () => void): void => {
    setOpen(false);
    make();
  };
  // The chosen kind, and what that is itself based on.
  const bases = selected === null ? [] : [selected, ...[entry(level.variants, selected)?.basedOn ?? []].flat()];
  const itemClass = 'flex w-full cursor-pointer items-baseline gap-2 px-3 py-[3px] text-left hover:bg-paper focus:bg-paper';
  return (
    <div
      ref={root}
      className="relative px-2.5"
      onKeyDown={(event) => {
        if (!open) return;
        const items = [...(root.current?.querySelectorAll<HTMLElement>('[role=menuitem]') ?? [])];
        const at = items.indexOf(document.activeElement as HTMLElement);
        if (event.key === 'ArrowDown') items[(at + 1) % items.length]?.focus();
        else if (event.key === 'ArrowUp') items[(at + items.length - 1) % items.length]?.focus();
        else if (event.key === 'Escape') {
          setOpen(false);
          root.current?.querySelector('button')?.focus();
        } else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      <Button aria-haspopup="menu" aria-expanded={open} onClick={() => setOpen(!open)}>
        New kind
      </Button>
      {open && (
        <div
          role="menu"
          aria-label="New kind"
          className="absolute top-full right-2.5 z-30 mt-1 max-h-[80vh] w-[400px] overflow-y-auto rounded-md border-[1.3px] border-ink bg-card py-1"
        >
          {kindBeginnings(level).map(({ beginning, item, role, words }) => (
            <button
              key={`${beginning} ${item ?? ''}`}
              type="button"
              role="menuitem"
              className={itemClass}
              onClick={() => choose(() => makeKind(store, beginning, item))}
            >
              <b className="w-20 shrink-0" style={{ color: roleColour(role) }}>
                {beginning}
              </b>
              <span className="text-xs">{words}</span>
            </button>
          ))}
          {bases.map((base) => (
            <button
              key={base}
              type="button"
              role="menuitem"
              className={`${itemClass} mt-1 border-t border-line pt-1.5`}
              onClick={() => choose(() => makeVariant(store, base))}
            >
              <b className="shrink-0">based on {kindOf(level, base)?.name}</b>
              <span className="text-xs">the same, until values are changed</span>
            </button>
          ))}
        </div>
      )}
    </div>
  );
}
