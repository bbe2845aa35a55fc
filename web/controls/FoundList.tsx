import type { Finding } from '@dial/core/findings';
import { useState } from 'react';
import { Button } from './controls.tsx';
import { SetAside } from './SetAside.tsx';

interface FoundListProps {
  readonly label: string;
  readonly findings: readonly Finding[];
  /** What a press on one leads to; undefined: it leads nowhere. */
  readonly lead?: (finding: Finding) => (() => void) | undefined;
  /** Sets one aside for a reason; answers whether it was. */
  readonly onMeant: (finding: Finding, reason: string) => boolean;
}

/** What is found, a line each: how grave it is, what is wrong, and why it matters. */
export function FoundList({ label, findings, lead, onMeant }: FoundListProps) {
  return (
    <ul aria-label={label} className="text-xs">
      {findings.map((finding) => (
        <FoundLine key={finding.id} finding={finding} go={lead?.(finding)} onMeant={onMeant} />
      ))}
    </ul>
  );
}

function FoundLine({
  finding,
  go,
  onMeant,
}: Pick<FoundListProps, 'onMeant'> & { readonly finding: Finding; readonly go: (() => void) | undefined }) {
  const [asked, setAsked] = useState(false);
  const { severity, what, why } = finding;
  return (
    <li className="border-t border-line/60 py-0.5" aria-label={what}>
      <span className="text-soft">{severity}:</span>{' '}
      {go === undefined ? (
        <b>{what}</b>
      ) : (
        <button type="button" className="cursor-pointer text-left font-bold hover:underline" onClick={go}>
          {what}
        </button>
      )}{' '}
      {why}{' '}
      <Button kind="quiet" className="px-1.5! py-0!" onClick={() => setAsked(!asked)}>
        Meant so …
      </Button>
      {asked && <SetAside onKeep={(reason) => onMeant(finding, reason)} onClose={() => setAsked(false)} />}
    </li>
  );
}
