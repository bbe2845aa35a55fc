import type { SheetReading } from '@dial/core/formats';
import type { ReactNode } from 'react';
import { Button, Notice } from './controls.tsx';
import { Dialog } from './Dialog.tsx';

const MOST_SHOWN = 200;

const count = (number: number, one: string): string => `${String(number)} ${one}${number === 1 ? '' : 's'}`;

interface PreviewProps {
  readonly name: string;
  readonly reading: Pick<SheetReading, 'changes' | 'refused' | 'same'>;
  /** What a number of a refused part counts: lines, or shapes. */
  readonly counts: string;
  readonly onMake: () => void;
  readonly onClose: () => void;
  readonly children?: ReactNode;
}

/** What a file would change, before anything is: each change, what is not taken and why, and the choice. */
export function ChangePreview({ name, reading: { changes, refused, same }, counts, onMake, onClose, children }: PreviewProps) {
  return (
    <Dialog label={`Import ${name}`} onClose={onClose} className="top-[10vh] flex max-h-[80vh] w-[620px] flex-col gap-2 p-4">
      <h2 className="text-sm font-bold">What {name} would change</h2>
      <p className="text-xs">
        {count(changes.length, 'change')}, {same > 0 && `${count(same, 'value')} as they are already, `}
        {refused.length} not taken. Nothing is changed yet.
      </p>
      {children}
      {refused.length > 0 && (
        <Notice>
          <ul aria-label="Not taken" className="max-h-36 flex-1 overflow-y-auto text-xs" tabIndex={0}>
            {refused.slice(0, MOST_SHOWN).map(({ line, text, why }, index) => (
              <li key={index}>
                {counts} {line}
                {text === '' ? '' : ` (${text.slice(0, 60)})`}: {why}
              </li>
            ))}
            {refused.length > MOST_SHOWN && <li>and {refused.length - MOST_SHOWN} more</li>}
          </ul>
        </Notice>
      )}
      <ul aria-label="Changes" className="min-h-10 overflow-y-auto border-y border-line py-1 font-mono text-xs" tabIndex={0}>
        {changes.slice(0, MOST_SHOWN).map(({ path, words }) => (
          <li key={path}>{words}</li>
        ))}
        {changes.length > MOST_SHOWN && <li>and {changes.length - MOST_SHOWN} more</li>}
        {changes.length === 0 && <li className="font-sans text-soft">Nothing in this file differs from the level.</li>}
      </ul>
      <div className="flex justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          Cancel
        </Button>
        <Button
          kind="strong"
          disabled={changes.length === 0}
          onClick={() => {
            onMake();
            onClose();
          }}
        >
          Make {count(changes.length, 'change')}
        </Button>
      </div>
    </Dialog>
  );
}
