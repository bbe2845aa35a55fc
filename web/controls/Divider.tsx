import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { z } from 'zod';
import { readText } from '../browser/reading.ts';
import { lasting, remember } from '../browser/storage.ts';
import { Hint } from './Hint.tsx';
import { hold } from './keyboard.ts';

/** How much the part after a line has of the page, the least and most it may have, and what is told how much it is to have. */
export interface Divided {
  readonly value: number;
  readonly least: number;
  readonly most: number;
  /** Told null where it is to be as at first. */
  readonly onChange: (value: number | null) => void;
}

/** How a part of the page is divided off, as it was left in this browser; `usual` where that was never said. */
export function useDivided(name: string, usual: number, [least, most]: readonly [least: number, most: number]): Divided {
  const key = `dial.divided.${name}`;
  const [value, setValue] = useState(() => readText(lasting.get(key), z.number().min(least).max(most)) ?? null);
  const onChange = (next: number | null): void => {
    const kept = next === null ? null : Math.max(least, Math.min(most, next));
    setValue(kept);
    if (kept === null) lasting.remove(key);
    else remember(key, JSON.stringify(kept));
  };
  return { value: value ?? usual, least, most, onChange };
}

interface DividerProps extends Divided {
  readonly label: string;
  /** Whether the line stands upright, between left and right, or lies between above and below. */
  readonly stands: 'upright' | 'flat';
  /** How much a pixel is of what the part has. */
  readonly perPixel: () => number;
  /** How far an arrow key goes. */
  readonly step: number;
  readonly className?: string;
}

/** A line between two parts of the page that is dragged, or moved by the arrow keys; Esc takes a drag back, a double-click all of it. */
export function Divider({ label, stands, value, least, most, perPixel, step, onChange, className = '' }: DividerProps) {
  const upright = stands === 'upright';
  const drag = useRef<{ readonly from: number; readonly value: number; readonly per: number; readonly release: () => void } | null>(null);
  const end = (): void => {
    drag.current?.release();
    drag.current = null;
  };
  const onPointerDown = (event: PointerEvent<HTMLElement>): void => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const release = hold(() => {
      onChange(value);
      drag.current = null;
    });
    drag.current = { from: upright ? event.clientX : event.clientY, value, per: perPixel(), release };
  };
  const onPointerMove = (event: PointerEvent): void => {
    if (drag.current === null) return;
    const { from, value: before, per } = drag.current;
    onChange(before - ((upright ? event.clientX : event.clientY) - from) * per);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const grow = upright ? 'ArrowLeft' : 'ArrowUp';
    const shrink = upright ? 'ArrowRight' : 'ArrowDown';
    const next = { [grow]: value + step, [shrink]: value - step, Home: most, End: least }[event.key];
    if (next === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onChange(next);
  };
  return (
    <Hint says={`Drag, or ${upright ? '← →' : '↑ ↓'}; a double-click puts it back`}>
      <div
        role="separator"
        aria-label={label}
        aria-orientation={upright ? 'vertical' : 'horizontal'}
        aria-valuenow={Math.round(value * 100) / 100}
        aria-valuemin={least}
        aria-valuemax={most}
        tabIndex={0}
        className={`group touch-none ${upright ? 'w-[7px] cursor-col-resize' : 'h-[7px] cursor-row-resize'} flex shrink-0 items-center justify-center ${className}`}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={end}
        onLostPointerCapture={end}
        onDoubleClick={() => onChange(null)}
        onKeyDown={onKeyDown}
      >
        <span className={`rounded-full bg-line group-hover:bg-ink ${upright ? 'h-8 w-[3px]' : 'h-[3px] w-8'}`} />
      </div>
    </Hint>
  );
}
