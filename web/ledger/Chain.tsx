import { clockTime, lineWords } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { isStopped, type LedgerLine } from '@dial/core/session';

/** What brought a line about, the first cause first. */
export function causesOf(lines: readonly LedgerLine[], line: LedgerLine): LedgerLine[] {
  const causes: LedgerLine[] = [];
  let cause = line.cause;
  while (cause !== null) {
    const found: LedgerLine | undefined = lines[cause];
    // A cause is always an earlier line.
    if (found === undefined || found.index >= (causes[0]?.index ?? line.index)) break;
    causes.unshift(found);
    cause = found.cause;
  }
  return causes;
}

const MOST_SHOWN = 12;

interface ChainProps {
  readonly level: Level;
  readonly lines: readonly LedgerLine[];
  readonly line: LedgerLine;
  readonly onChoose: (line: LedgerLine) => void;
}

function Link({ level, line, depth, here, onChoose }: Omit<ChainProps, 'lines'> & { readonly depth: number; readonly here: boolean }) {
  return (
    <li style={{ paddingLeft: Math.min(depth, 6) * 10 }}>
      <button
        type="button"
        aria-current={here}
        className={`cursor-pointer text-left hover:underline ${here ? 'font-semibold' : ''} ${isStopped(line) ? 'text-harm' : ''}`}
        onClick={() => onChoose(line)}
      >
        {depth > 0 && <span aria-hidden>└ </span>}
        <span className="font-mono text-soft">{clockTime(line.seconds)}</span> {lineWords(level, line)}
      </button>
    </li>
  );
}

/** A line with its causes above it and what it brought about below. */
export function Chain({ level, lines, line, onChoose }: ChainProps) {
  const causes = causesOf(lines, line);
  const brought = lines.filter(({ cause }) => cause === line.index);
  const chain = [...causes, line];
  return (
    <section aria-label="What brought it about" className="mb-2">
      <h3 className="text-[11px] font-bold text-soft">
        {causes.length === 0 ? 'This began by itself' : 'What brought it about'}
        {brought.length > 0 && ', and what came of it'}
      </h3>
      <ol>
        {chain.map((one, depth) => (
          <Link key={one.index} level={level} line={one} depth={depth} here={one === line} onChoose={onChoose} />
        ))}
        {brought.slice(0, MOST_SHOWN).map((one) => (
          <Link key={one.index} level={level} line={one} depth={chain.length} here={false} onChoose={onChoose} />
        ))}
        {brought.length > MOST_SHOWN && <li className="text-soft">and {brought.length - MOST_SHOWN} more</li>}
      </ol>
    </section>
  );
}
