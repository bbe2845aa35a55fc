import type { ReactNode } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import type { OpenLevel } from '../state/slices/document.ts';
import { useAppSelector } from '../state/store.ts';
import { useOpenLevel } from '../state/sync/useOpenLevel.ts';
import { AppHeader } from '../controls/AppHeader.tsx';
import { buttonClass, Notice } from '../controls/controls.tsx';

/** A page of the level that the address names, once it is open; or why it cannot be. */
export function LevelPage({ children }: { readonly children: (open: OpenLevel) => ReactNode }) {
  const { level: id = '' } = useParams();
  const [search] = useSearchParams();
  const { open, trouble } = useOpenLevel(id, search.get('run'));
  // Another that has edits which are not safe yet is not left for this one.
  const held = useAppSelector(({ document, saving }) => (document.open?.id !== id && saving.unsent.length > 0 ? document.open : null));
  if (trouble !== null) {
    return (
      <>
        <AppHeader />
        <div className="p-4">
          <Notice>
            <span className="flex-1">{trouble}</span>
            {held !== null && (
              <Link to={`/levels/${encodeURIComponent(held.id)}`} className={buttonClass()}>
                Back to “{held.level.name}”
              </Link>
            )}
            <Link to="/" className={buttonClass()}>
              All levels
            </Link>
          </Notice>
        </div>
      </>
    );
  }
  return open === null ? <p className="p-4 text-soft">Fetching the level …</p> : children(open);
}
