import type { Finding } from '@dial/core/findings';
import { findingsActions, openFindings } from '../state/slices/findings.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';

/** More than so many are left to the list. */
const MOST = 4;

/** What is found wrong with what is shown beside it, or worth a look. */
export function FoundHere({ isHere }: { readonly isHere: (finding: Finding) => boolean }) {
  const dispatch = useAppDispatch();
  const found = useAppSelector(openFindings).filter(isHere);
  if (found.length === 0) return null;
  return (
    <ul aria-label="Found here" className="my-2 rounded-sm border border-line bg-card px-2.5 py-1.5 text-[12.5px]">
      {found.slice(0, MOST).map(({ id, severity, what, why }) => (
        <li
          key={id}
          onPointerEnter={() => void dispatch(findingsActions.pointed(id))}
          onPointerLeave={() => void dispatch(findingsActions.pointed(null))}
        >
          <b className={severity === 'breaks it' ? 'text-harm' : ''}>{what}</b> {why}
        </li>
      ))}
      {found.length > MOST && <li className="text-soft">and {String(found.length - MOST)} more: J lists them all</li>}
    </ul>
  );
}
