import type { Finding } from '@dial/core/findings';

interface FoundListProps {
  readonly label: string;
  readonly findings: readonly Finding[];
  /** What a press on one leads to; undefined: it leads nowhere. */
  readonly lead?: (finding: Finding) => (() => void) | undefined;
}

/** What is found, a line each: how grave it is, what is wrong, and why it matters. */
export function FoundList({ label, findings, lead }: FoundListProps) {
  return (
    <ul aria-label={label} className="text-xs">
      {findings.map((finding) => {
        const { id, severity, what, why } = finding;
        const go = lead?.(finding);
        return (
          <li key={id} className="border-t border-line/60 py-0.5">
            <span className="text-soft">{severity}:</span>{' '}
            {go === undefined ? (
              <b>{what}</b>
            ) : (
              <button type="button" className="cursor-pointer text-left font-bold hover:underline" onClick={go}>
                {what}
              </button>
            )}{' '}
            {why}
          </li>
        );
      })}
    </ul>
  );
}
