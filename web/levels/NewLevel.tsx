import { newLevel, type Beginning, type Level } from '@dial/core/level';
import { useState, type ChangeEvent, type ReactNode, type SubmitEvent } from 'react';
import { hasFocusAtFirst } from '../controls/firstFocus.ts';
import { Select } from '../controls/Select.tsx';
import { Button } from '../controls/controls.tsx';

const SIZES = { top: { width: 40, height: 18 }, side: { width: 32, height: 18 } } as const;

function Field({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  return (
    <label className="flex flex-col gap-0.5 text-xs font-semibold">
      {label}
      {children}
    </label>
  );
}

const fieldClass = 'h-[29px] rounded-sm border border-ink bg-paper px-1.5 py-1 text-[13px] font-normal';

/** What a form says of a new level; numbers that are none come out as NaN, which the level refuses. */
function beginningOf(form: FormData): Beginning {
  const text = (name: string): string => {
    const value = form.get(name);
    return typeof value === 'string' ? value.trim() : '';
  };
  return {
    name: text('name'),
    view: text('view') === 'side' ? 'side' : 'top',
    width: Number(text('width')),
    height: Number(text('height')),
    unitsPerPixel: 1 / Number(text('pixels')),
    framesPerSecond: Number(text('frames')),
  };
}

interface NewLevelProps {
  /** Whether one is being begun already. */
  readonly busy: boolean;
  readonly onBegin: (level: Level) => void;
  readonly onCancel: () => void;
}

/** Asks what is needed to begin a level. */
export function NewLevel({ busy, onBegin, onCancel }: NewLevelProps) {
  const [view, setView] = useState<'top' | 'side'>('top');
  /** Sides that were typed: they stay, however the level is seen. */
  const [sides, setSides] = useState<Partial<Record<'width' | 'height', string>>>({});
  const [refusal, setRefusal] = useState<string | null>(null);
  const begin = (event: SubmitEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const beginning = beginningOf(new FormData(event.currentTarget));
    let level: Level;
    try {
      level = newLevel(beginning);
    } catch {
      setRefusal('A level needs a name, sides from 1 to 1,000 units, and a scale above nought. Nothing was begun yet.');
      return;
    }
    onBegin(level);
  };
  const side = (name: 'width' | 'height') => ({
    name,
    inputMode: 'decimal' as const,
    className: `${fieldClass} w-18`,
    value: sides[name] ?? String(SIZES[view][name]),
    onChange: ({ target }: ChangeEvent<HTMLInputElement>) => setSides({ ...sides, [name]: target.value }),
  });
  return (
    <form
      aria-label="New level"
      className="mb-5 flex flex-wrap items-end gap-3 rounded-lg border-[1.3px] border-ink bg-card px-4 py-3"
      onSubmit={begin}
      noValidate
    >
      <Field label="Name">
        <input name="name" className={`${fieldClass} w-52`} defaultValue="New level" maxLength={80} ref={hasFocusAtFirst} />
      </Field>
      <Field label="Seen">
        <input type="hidden" name="view" value={view} />
        <Select
          label="Seen"
          className="h-[29px]"
          value={view}
          options={[
            ['top', 'from above'],
            ['side', 'from the side'],
          ]}
          onChoose={setView}
        />
      </Field>
      <Field label="Width, u">
        <input {...side('width')} />
      </Field>
      <Field label="Height, u">
        <input {...side('height')} />
      </Field>
      <Field label="Pixels in a unit">
        <input name="pixels" inputMode="decimal" className={`${fieldClass} w-18`} defaultValue={32} />
      </Field>
      <Field label="Frames a second">
        <input name="frames" inputMode="decimal" className={`${fieldClass} w-18`} defaultValue={60} />
      </Field>
      <Button type="submit" kind="strong" disabled={busy}>
        Begin
      </Button>
      <Button kind="quiet" onClick={onCancel}>
        Cancel
      </Button>
      {refusal !== null && (
        <p role="alert" className="w-full text-harm">
          {refusal}
        </p>
      )}
    </form>
  );
}
