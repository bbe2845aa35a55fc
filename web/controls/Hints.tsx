import { Tooltip } from 'radix-ui';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { ITS_WORDS } from './Hint.tsx';

/** How long the pointer rests on something before its hint is shown; the next one comes at once. Milliseconds. */
const DELAY = 500;
const NEXT = 300;

interface Shown {
  readonly of: HTMLElement;
  readonly says: string;
  readonly keys: string;
  readonly box: DOMRect;
  readonly serial: number;
}

let serial = 0;

function shownOf(of: HTMLElement): Shown {
  const { hint = '', keys = '' } = of.dataset;
  const parts = of.childElementCount === 0 ? [of.innerText] : [...of.children].map((part) => (part as HTMLElement).innerText);
  serial += 1;
  return { of, says: hint === ITS_WORDS ? parts.join(', ') : hint, keys, box: of.getBoundingClientRect(), serial };
}

const hinting = (target: EventTarget | null): HTMLElement | null =>
  target instanceof Element ? target.closest<HTMLElement>('[data-hint]') : null;

/** What is said now of what is pointed at or was reached by keyboard; null for nothing. */
function useShown(): Shown | null {
  const [shown, setShown] = useState<Shown | null>(null);
  useEffect(() => {
    let timer = 0;
    let pointed: HTMLElement | null = null;
    let open = false;
    let left = -Infinity;
    const show = (of: HTMLElement): void => {
      if (!of.isConnected) return;
      open = true;
      setShown(shownOf(of));
    };
    const leave = (): void => {
      clearTimeout(timer);
      if (!open) return;
      open = false;
      left = performance.now();
      setShown(null);
    };
    const onOver = ({ target, buttons }: PointerEvent): void => {
      const now = hinting(target);
      if (now === pointed) return;
      pointed = now;
      leave();
      if (now === null || buttons !== 0) return;
      timer = window.setTimeout(() => show(now), performance.now() - left < NEXT ? 0 : DELAY);
    };
    const onFocus = ({ target }: FocusEvent): void => {
      // A focus that came by pointer asks for no hint.
      const now = target instanceof Element && target.matches(':focus-visible') ? hinting(target) : null;
      leave();
      if (now !== null) show(now);
    };
    // At once: Esc is for what the hint is of.
    const onKey = ({ key }: KeyboardEvent): void => {
      if (key !== 'Tab') flushSync(leave);
    };
    const watched = new AbortController();
    const how = { capture: true, signal: watched.signal };
    addEventListener('pointerover', onOver, how);
    addEventListener('focusin', onFocus, how);
    addEventListener('keydown', onKey, how);
    for (const name of ['focusout', 'pointerdown', 'scroll']) addEventListener(name, leave, how);
    return () => {
      leave();
      watched.abort();
    };
  }, []);
  return shown;
}

/** The hint of what is pointed at or has the focus, beside it. */
function ShownHint({ of, says, keys, box }: Shown) {
  const anchor = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const id = anchor.current?.getAttribute('aria-describedby');
    if (id == null || of.hasAttribute('aria-describedby')) return;
    of.setAttribute('aria-describedby', id);
    return () => of.removeAttribute('aria-describedby');
  }, [of]);
  return (
    <Tooltip.Root open>
      <Tooltip.Trigger asChild>
        <span
          ref={anchor}
          className="pointer-events-none fixed"
          style={{ left: box.left, top: box.top, width: box.width, height: box.height }}
        />
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={5}
          collisionPadding={8}
          className="pointer-events-none z-60 flex max-w-[280px] items-baseline gap-2 rounded-sm border border-ink bg-ink px-1.5 py-0.5 text-xs text-card"
        >
          {says !== '' && <span>{says}</span>}
          {keys !== '' && <kbd className="font-mono whitespace-nowrap">{keys}</kbd>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

/** Shows the hints of a page. */
export function Hints({ children }: { readonly children: ReactNode }) {
  const shown = useShown();
  return (
    <>
      {children}
      <Tooltip.Provider>{shown !== null && <ShownHint key={shown.serial} {...shown} />}</Tooltip.Provider>
    </>
  );
}
