import { rounded } from '@dial/core/level';
import { Refused } from '../controls/controls.tsx';
import { dialText, readTyped, refusedWords } from '@dial/core/formats';
import { useRef, useState } from 'react';
import { hold } from '../controls/keyboard.ts';
import { useTyped } from '../controls/hooks/useTyped.ts';

type Points = readonly (readonly [at: number, value: number])[];

const WIDTH = 286;
const HEIGHT = 110;
const [LEFT, BOTTOM, AIR] = [30, 16, 8];

const PRESETS: readonly (readonly [name: string, shape: Points])[] = [
  [
    'even',
    [
      [0, 1],
      [1, 1],
    ],
  ],
  [
    'rising',
    [
      [0, 0],
      [1, 1],
    ],
  ],
  [
    'falling',
    [
      [0, 1],
      [1, 0],
    ],
  ],
  [
    'late',
    [
      [0, 0],
      [0.7, 0.2],
      [1, 1],
    ],
  ],
];

interface CurveEditorProps {
  readonly label: string;
  readonly points: Points;
  readonly onSet: (points: Points) => string | null;
}

const plain = { unit: '', low: 0, high: 10, step: 0.1 };
const onHundredth = (value: number): number => rounded(value, 2);

interface PointFieldProps {
  readonly label: string;
  readonly value: number;
  readonly least: number;
  readonly onSet: (value: number) => void;
  readonly onRefused: (why: string | null) => void;
}

/** A number of a point: taken over with Enter or on leaving, left as it was with Escape. */
function PointField({ label, value, least, onSet, onRefused }: PointFieldProps) {
  const { field } = useTyped(dialText(value), (typed) => {
    const read = readTyped(typed, { ...plain, min: least, max: 1e6 }, null);
    if (read.ok) onSet(read.value);
    else onRefused(refusedWords(typed, read.why, value));
    return null;
  });
  return <input aria-label={label} className="w-12 rounded-sm border border-line bg-card px-1 text-right font-mono" {...field} />;
}

interface Axes {
  readonly farthest: number;
  readonly most: number;
  readonly least: number;
  /** Places on the drawing. */
  readonly x: (at: number) => number;
  readonly y: (value: number) => number;
  /** What lies under a pointer, given the box of the drawing on the page. */
  readonly placeOf: (box: DOMRect | undefined, event: { clientX: number; clientY: number }) => readonly [number, number];
}

/** The two axes, a little longer than the points need. */
function axesOf(points: Points): Axes {
  const farthest = Math.max(1, ...points.map(([at]) => at)) * 1.1;
  const most = Math.max(1, ...points.map(([, value]) => value)) * 1.2;
  const least = Math.min(0, ...points.map(([, value]) => value));
  return {
    farthest,
    most,
    least,
    x: (at) => LEFT + (at / farthest) * (WIDTH - LEFT - AIR),
    y: (value) => HEIGHT - BOTTOM - ((value - least) / (most - least)) * (HEIGHT - BOTTOM - AIR),
    placeOf(box, event) {
      const across = ((event.clientX - (box?.left ?? 0)) / (box?.width ?? WIDTH)) * WIDTH;
      const up = ((event.clientY - (box?.top ?? 0)) / (box?.height ?? HEIGHT)) * HEIGHT;
      const at = ((across - LEFT) / (WIDTH - LEFT - AIR)) * farthest;
      return [onHundredth(Math.max(0, at)), onHundredth(least + ((HEIGHT - BOTTOM - up) / (HEIGHT - BOTTOM - AIR)) * (most - least))];
    },
  };
}

interface PointFieldsProps extends Pick<PointFieldProps, 'onRefused'> {
  readonly points: Points;
  readonly onSet: (points: Points) => void;
}

/** The numbers of all points, to be typed. */
function PointFields({ points, onSet, onRefused }: PointFieldsProps) {
  return (
    <div className="mt-1 flex flex-wrap gap-1">
      {points.map((point, index) => (
        <span key={`${String(index)} ${String(point[0])} ${String(point[1])}`} className="flex items-center gap-0.5">
          {([0, 1] as const).map((part) => (
            <PointField
              key={part}
              label={`Point ${String(index + 1)}: ${part === 0 ? 'at' : 'value'}`}
              value={point[part]}
              least={part === 0 ? 0 : -1e6}
              onRefused={onRefused}
              onSet={(value) =>
                onSet(points.map((one, k) => (k !== index ? one : part === 0 ? ([value, one[1]] as const) : ([one[0], value] as const))))
              }
            />
          ))}
          {index < points.length - 1 && <span className="text-soft">·</span>}
        </span>
      ))}
    </div>
  );
}

/** Points over two axes: dragged, or typed beneath. A press on the line adds one; Delete on a point removes it. */
export function CurveEditor({ label, points, onSet }: CurveEditorProps) {
  const drawing = useRef<SVGSVGElement>(null);
  const [dragged, setDragged] = useState<Points | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const set = (next: Points): void => setRefusal(onSet(next));
  const shown = dragged ?? points;
  const { farthest, most, least, x, y, placeOf } = axesOf(shown);
  const at = (event: { clientX: number; clientY: number }) => placeOf(drawing.current?.getBoundingClientRect(), event);
  /** A point stays between its neighbours. */
  const moved = (index: number, [along, value]: readonly [number, number]): Points => {
    const from = (points[index - 1]?.[0] ?? -0.01) + 0.01;
    const to = (points[index + 1]?.[0] ?? Infinity) - 0.01;
    return points.map((one, k) => (k === index ? ([onHundredth(Math.max(from, Math.min(to, along))), value] as const) : one));
  };
  const drag = (index: number, event: React.PointerEvent<SVGCircleElement>): void => {
    const circle = event.currentTarget;
    circle.setPointerCapture(event.pointerId);
    const done = (): void => {
      circle.onpointermove = null;
      circle.onpointerup = null;
      setDragged(null);
    };
    const release = hold(done);
    circle.onpointermove = (to) => setDragged(moved(index, at(to)));
    circle.onpointerup = (to) => {
      release();
      done();
      set(moved(index, at(to)));
    };
  };
  const add = (event: React.PointerEvent): void => {
    const [along, value] = at(event);
    if (!points.some((one) => one[0] === along)) set([...points, [along, value] as const].sort((a, b) => a[0] - b[0]));
  };
  const line = [[0, shown[0]?.[1] ?? 0] as const, ...shown, [farthest, shown.at(-1)?.[1] ?? 0] as const];
  return (
    <fieldset className="mt-1.5 text-xs">
      <legend className="text-[11px] font-bold text-soft">{label}</legend>
      <svg ref={drawing} viewBox={`0 0 ${String(WIDTH)} ${String(HEIGHT)}`} className="w-full rounded-sm border border-line bg-card">
        <path d={`M${String(LEFT)} ${String(AIR)}V${String(HEIGHT - BOTTOM)}H${String(WIDTH - AIR)}`} fill="none" stroke="var(--line)" />
        <g fontSize="9" fill="var(--soft)" fontFamily="IBM Plex Mono">
          <text x={LEFT - 4} y={y(most) + 8} textAnchor="end">
            {dialText(onHundredth(most))}
          </text>
          <text x={LEFT - 4} y={y(least)} textAnchor="end">
            {dialText(onHundredth(least))}
          </text>
          <text x={WIDTH - AIR} y={HEIGHT - 4} textAnchor="end">
            {dialText(onHundredth(farthest))}
          </text>
        </g>
        <polyline
          points={line.map(([at, value]) => `${String(x(at))},${String(y(value))}`).join(' ')}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.6"
          className="cursor-copy"
          onPointerDown={add}
        />
        {shown.map(([at, value], index) => (
          <circle
            key={index}
            role="button"
            tabIndex={0}
            aria-label={`Point ${String(index + 1)}: ${dialText(value)} at ${dialText(at)}`}
            cx={x(at)}
            cy={y(value)}
            r="5"
            fill="var(--card)"
            stroke="var(--ink)"
            strokeWidth="1.5"
            className="cursor-move"
            onPointerDown={(event) => drag(index, event)}
            onKeyDown={(event) => {
              if ((event.key === 'Delete' || event.key === 'Backspace') && points.length > 1) {
                event.stopPropagation();
                set(points.filter((_, k) => k !== index));
              }
            }}
          />
        ))}
      </svg>
      <PointFields points={points} onSet={set} onRefused={setRefusal} />
      <Refused why={refusal} />
      <div className="mt-1 flex gap-1">
        {PRESETS.map(([name, shape]) => (
          <button
            key={name}
            type="button"
            className="cursor-pointer rounded-sm border border-line bg-card px-1.5 hover:border-ink"
            onClick={() => {
              const [far, high] = [points.at(-1)?.[0] ?? 1, Math.max(...points.map(([, value]) => value))];
              set(shape.map(([at, value]) => [onHundredth(at * (far > 0 ? far : 1)), onHundredth(value * high)] as const));
            }}
          >
            {name}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
