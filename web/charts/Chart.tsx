import { fileName } from '@dial/core/formats';
import { useEffect, useRef, useState } from 'react';
import { Button, Refused } from '../controls/controls.tsx';
import { download } from '../controls/download.ts';
import { useSize } from '../controls/hooks/useSize.ts';
import { readPalette, usePalette } from '../drawing/palette.ts';
import type { Drawn } from './engine.ts';
import { tableOf, type ChartSpec } from './spec.ts';

function Table({ spec }: { readonly spec: ChartSpec }) {
  const { heads, rows } = tableOf(spec);
  return (
    <div className="max-h-72 overflow-auto" tabIndex={0} role="group" aria-label={`${spec.label}, as a table`}>
      <table className="text-xs">
        <thead>
          <tr>
            {heads.map((head, index) => (
              <th key={index} className="sticky top-0 bg-panel px-2 py-0.5 text-left text-[11px] text-soft">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((cells, row) => (
            <tr key={row} className="border-b border-line/60">
              {cells.map((cell, index) => (
                <td key={index} className={`px-2 py-px ${index === 0 ? '' : 'text-right font-mono'}`}>
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Pixels of a chart that is taken out as a file. */
const FILE_WIDTH = 1000;

const NOT_LOADED = 'The chart could not be loaded; its figures are in the table.';

interface ChartProps {
  readonly spec: ChartSpec;
  /** CSS pixels. */
  readonly height: number;
  /** Of a chart of dots: which dot of which row was pressed. */
  readonly onDot?: (row: number, nth: number) => void;
  /** Of a chart of lines: near which line, and at what x, it was pressed. */
  readonly onLine?: (line: number, x: number) => void;
}

/** A chart, the same as a table, and the way to take it out as a file. */
export function Chart({ spec, height, onDot, onLine }: ChartProps) {
  const palette = usePalette();
  const frame = useRef<HTMLDivElement>(null);
  const drawn = useRef<Drawn | null>(null);
  const [ready, setReady] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [read, setRead] = useState(false);
  const { width } = useSize(frame);
  useEffect(() => {
    let wanted = true;
    import('./engine.ts').then(
      ({ drawIn }) => {
        if (!wanted || frame.current === null) return;
        drawn.current = drawIn(frame.current);
        setReady(true);
      },
      () => wanted && setTrouble(NOT_LOADED),
    );
    return () => {
      wanted = false;
      drawn.current?.end();
      drawn.current = null;
    };
  }, []);
  useEffect(() => {
    if (ready) drawn.current?.resize();
  }, [ready, width, height]);
  useEffect(() => {
    if (ready) drawn.current?.show(spec, palette);
  }, [ready, spec, palette, height]);
  useEffect(() => {
    if (ready && onDot !== undefined) drawn.current?.onDot(onDot);
  }, [ready, onDot]);
  useEffect(() => {
    if (ready && onLine !== undefined) drawn.current?.onLine(onLine);
  }, [ready, onLine]);
  const takeOut = (): void => {
    const keep = async (): Promise<void> => {
      const { svgOf } = await import('./engine.ts');
      download(fileName(spec.label, 'svg'), svgOf(spec, palette, FILE_WIDTH, height), 'image/svg+xml');
    };
    keep().catch(() => setTrouble(NOT_LOADED));
  };
  return (
    <figure className="text-xs">
      <div
        ref={frame}
        role="img"
        aria-label={spec.label}
        aria-busy={!ready && trouble === null}
        style={{ height }}
        className={read ? 'hidden' : ''}
      />
      <Refused why={trouble} />
      {read && <Table spec={spec} />}
      <div className="flex gap-1.5 py-1">
        <Button kind="quiet" className="px-1.5! py-0!" aria-pressed={read} onClick={() => setRead(!read)}>
          As a table
        </Button>
        <Button kind="quiet" className="px-1.5! py-0!" disabled={!ready} hint="the chart as a drawing, to be kept" onClick={takeOut}>
          SVG
        </Button>
      </div>
    </figure>
  );
}

/** A chart as a picture, of a page that is printed; its figures stand in a table of that page. */
export function ChartPicture({ spec, height }: ChartProps) {
  const sheet = useRef<HTMLDivElement>(null);
  const [svg, setSvg] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    let wanted = true;
    import('./engine.ts').then(
      ({ svgOf }) => {
        if (wanted && sheet.current !== null) setSvg(svgOf(spec, readPalette('light', sheet.current), FILE_WIDTH, height));
      },
      () => wanted && setTrouble(NOT_LOADED),
    );
    return () => {
      wanted = false;
    };
  }, [spec, height]);
  if (trouble !== null) return <Refused why={trouble} />;
  return (
    <div ref={sheet}>
      {svg === '' ? (
        <div style={{ height }} />
      ) : (
        <img className="w-full" src={`data:image/svg+xml,${encodeURIComponent(svg)}`} alt={spec.label} />
      )}
    </div>
  );
}
