import { useState } from 'react';

interface CellEditorProps {
  readonly label: string;
  readonly initial: string;
  /** All of it is chosen at first, to be typed over. */
  readonly whole: boolean;
  /** Answers why what was typed is refused, or null. */
  readonly onSet: (text: string) => string | null;
  /** Typing is over; the key of an arrow says where to go next. */
  readonly onEnd: (way: string | null) => void;
}

/** Types an exact number into a cell; what is refused stays, with the reason under it. */
export function CellEditor({ label, initial, whole, onSet, onEnd }: CellEditorProps) {
  const [text, setText] = useState(initial);
  const [why, setWhy] = useState<string | null>(null);
  const finish = (way: string | null): void => {
    const refusal = onSet(text);
    if (refusal === null) onEnd(way);
    else setWhy(refusal);
  };
  return (
    <>
      <input
        aria-label={label}
        aria-invalid={why !== null}
        className="absolute inset-0 z-10 w-full bg-card px-1.5 text-right font-mono outline-2 -outline-offset-2 outline-needle"
        value={text}
        ref={(field) => {
          if (field === null || document.activeElement === field) return;
          field.focus();
          if (whole) field.select();
        }}
        onChange={(event) => {
          setText(event.target.value);
          setWhy(null);
        }}
        onBlur={() => {
          if (why === null) finish(null);
        }}
        onKeyDown={(event) => {
          const ways: Readonly<Record<string, string>> = { Enter: event.shiftKey ? 'ArrowUp' : 'ArrowDown', Tab: 'ArrowRight' };
          const way = ways[event.key];
          event.stopPropagation();
          if (event.key === 'Escape') onEnd(null);
          else if (way !== undefined) finish(way);
          else return;
          event.preventDefault();
        }}
      />
      {why !== null && (
        <span
          role="alert"
          className="absolute top-full right-0 z-20 rounded-sm border border-harm bg-card px-1.5 py-0.5 font-sans text-[11px] text-harm"
        >
          {why}
        </span>
      )}
    </>
  );
}
