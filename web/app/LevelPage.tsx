import type { ReactNode } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import type { OpenLevel } from '../state/slices/document.ts';
import { useOpenLevel } from '../state/sync/useOpenLevel.ts';
import { AppHeader } from '../controls/AppHeader.tsx';
import { buttonClass, Notice } from '../controls/controls.tsx';

/** A page of the level that the address names, once it is open; or why it cannot be. */
export function LevelPage({ children }: { readonly children: (open: OpenLevel) => ReactNode }) {
  const { level: id = '' } = useParams();
  const [search] = useSearchParams();
  const { open, trouble } = useOpenLevel(id, search.get('run'));
  if (trouble !== null) {
    return (
      <>
        <AppHeader />
        <div className="p-4">
          <Notice>
            <span className="flex-1">{trouble}</span>
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
