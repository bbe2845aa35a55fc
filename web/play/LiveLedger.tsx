import { clockTime, lineWords } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { isStopped, type LedgerLine } from '@dial/core/session';

/** Ledger lines in words, newest first. */
export function LedgerLines({ level, lines }: { readonly level: Level; readonly lines: readonly LedgerLine[] }) {
  return (
    <ol>
      {[...lines].reverse().map((line) => (
        <li key={line.index} className="flex gap-2 py-0.5">
          <span className="w-11 shrink-0 text-right font-mono text-soft">{clockTime(line.seconds)}</span>
          <span className={isStopped(line) ? 'text-harm' : ''}>{lineWords(level, line)}</span>
        </li>
      ))}
    </ol>
  );
}

/** What has just happened, beside the play. */
export function LiveLedger({ level, lines }: { readonly level: Level; readonly lines: readonly LedgerLine[] }) {
  return (
    <>
      <h2 className="border-b border-line px-3 py-1.5 text-[11px] font-bold text-soft">what happened, newest first</h2>
      <div role="log" tabIndex={0} aria-label="lines" className="min-h-0 flex-1 overflow-y-auto px-3 py-1.5 text-xs">
        {lines.length === 0 && <p className="text-soft">Touch something: what it does, or why it does nothing, is written here.</p>}
        <LedgerLines level={level} lines={lines} />
      </div>
    </>
  );
}
