import type { Part } from '@dial/core/formats';
import type { ReactNode } from 'react';
import { Hint } from '../controls/Hint.tsx';
import { SortedEntry, sortHint, type Sorted } from '../controls/Sortable.tsx';
import { focusDial } from './DialGroup.tsx';

interface PhrasesProps {
  readonly parts: readonly Part[];
  readonly open: string | null;
  readonly onOpen: (phrase: string) => void;
  /** What a phrase that can be put elsewhere in the sentence is known by there; null for one that stays where it is. */
  readonly sortedBy: (phrase: string) => string | null;
}

/** A phrase that opens to be chosen anew. A button would be a block of its own, and the sentence would not flow. */
function Phrase({
  text,
  expanded,
  sorted,
  onOpen,
}: {
  readonly text: string;
  readonly expanded: boolean;
  readonly sorted: Sorted | null;
  readonly onOpen: () => void;
}) {
  return (
    <Hint says={sorted === null ? 'Choose another' : `Choose another. ${sortHint('flowing')}`}>
      <span
        role="button"
        tabIndex={0}
        aria-expanded={expanded}
        {...sorted?.entry}
        {...sorted?.handle}
        className={`cursor-pointer rounded-sm underline decoration-line decoration-dotted underline-offset-[3px] hover:decoration-ink ${expanded ? 'bg-paper decoration-ink' : ''}`}
        onClick={onOpen}
        onKeyDown={(event) => {
          sorted?.handle.onKeyDown?.(event);
          if (event.key !== 'Enter' && event.key !== ' ') return;
          event.preventDefault();
          onOpen();
        }}
      >
        {text}
      </span>
    </Hint>
  );
}

/** The words of a sentence: numbers lead to their dials, phrases open. */
export function Phrases({ parts, open, onOpen, sortedBy }: PhrasesProps) {
  return parts.map(({ text, path, phrase }, index) => {
    if (path !== undefined) {
      return (
        <Hint key={index} says="To its dial, or to where it is set">
          <button
            type="button"
            className="inline cursor-pointer font-semibold underline decoration-dotted underline-offset-[3px] hover:decoration-solid"
            onClick={() => {
              if (!focusDial(path) && phrase !== undefined) onOpen(phrase);
            }}
          >
            {text}
          </button>
        </Hint>
      );
    }
    if (phrase === undefined) return <span key={index}>{text}</span>;
    const one = (sorted: Sorted | null): ReactNode => (
      <Phrase key={index} text={text} expanded={phrase === open} sorted={sorted} onOpen={() => onOpen(phrase)} />
    );
    const id = sortedBy(phrase);
    return id === null ? (
      one(null)
    ) : (
      <SortedEntry key={index} id={id}>
        {one}
      </SortedEntry>
    );
  });
}
