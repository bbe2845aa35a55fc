import { clockTime, plainNumber, signed } from '@dial/core/formats';
import { inOrder, kindOf } from '@dial/core/level';
import { spanSums } from '@dial/core/players';
import { useMemo } from 'react';
import { ledgerOf } from '../state/simulation/lines.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { Button } from '../controls/controls.tsx';
import type { TimeView } from '../drawing/lanes/laneDrawing.ts';

interface SpanPanelProps {
  readonly run: ShownRun;
  readonly span: TimeView;
  readonly onZoom: () => void;
  readonly onClose: () => void;
}

/** What the chosen stretch of the session comes to. */
export function SpanPanel({ run, span, onZoom, onClose }: SpanPanelProps) {
  const { level, rate } = run;
  const sums = useMemo(() => spanSums(level, { lines: ledgerOf(run), lanes: run, rate }, span.from, span.to), [run, level, rate, span]);
  const damage = Object.entries(sums.damage).sort(([, a], [, b]) => b - a);
  const rows: readonly (readonly [name: string, value: string])[] = [
    ...damage.map(([kind, lost]) => [`damage by ${kindOf(level, kind)?.name ?? 'nothing named'}`, plainNumber(lost, 1)] as const),
    ['healing', plainNumber(sums.healed, 1)],
    ...inOrder(level.meters).flatMap(([id, { name }]) =>
      sums.meters[id] === undefined ? [] : [[name, signed(sums.meters[id], 1)] as const],
    ),
    ...inOrder(level.items).flatMap(([id, { name }]) => (sums.items[id] === undefined ? [] : [[name, signed(sums.items[id])] as const])),
    ['walked', `${plainNumber(sums.distance, 1)} u`],
    ['used, refused', `${String(sums.uses)}, ${String(sums.refusals)}`],
    ...(sums.deaths === 0 ? [] : [['deaths', String(sums.deaths)] as const]),
  ];
  return (
    <section
      aria-label="Chosen stretch"
      className="absolute top-6 right-3 z-20 w-[230px] rounded-md border-[1.3px] border-ink bg-card px-2.5 py-1.5 text-xs"
    >
      <h3 className="font-semibold">
        {clockTime(span.from)} to {clockTime(span.to)} <span className="font-normal text-soft">{plainNumber(sums.seconds, 1)} s</span>
      </h3>
      <dl className="mt-1">
        {rows.map(([name, value]) => (
          <div key={name} className="flex justify-between gap-2 border-b border-line/60">
            <dt>{name}</dt>
            <dd className="font-mono">{value}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-1.5 flex gap-1.5">
        <Button kind="quiet" className="px-1.5! py-0!" onClick={onZoom}>
          Zoom to it
        </Button>
        <Button kind="quiet" className="px-1.5! py-0!" onClick={onClose}>
          Close
        </Button>
      </div>
    </section>
  );
}
