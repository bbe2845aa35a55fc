import { extentOf, type Kind, type Shape } from '@dial/core/level';
import type { PlacementMoment } from '@dial/core/session';
import { memo } from 'react';
import { Arc, Circle, Group, Line, Path, Rect, Text } from 'react-konva';
import { MARK_SHAPES } from './marks.ts';
import { TILE_SCALE, type Palette } from './palette.ts';
import type { PlanScale } from './planScale.ts';
import { ROLE_PATTERNS } from './roles.ts';

export const FONT = 'IBM Plex Mono';

/** What was pressed on the Plan. */
export interface Pressed {
  readonly placement?: string;
  readonly solid?: string;
  /** JSON Pointer to a place of the level. */
  readonly spot?: string;
}

/** The main button was pressed on a thing, a solid, a spot, or nothing. */
export type OnPress = ((what: Pressed, event: MouseEvent) => void) | undefined;

function ShapeNode({
  shape,
  kind,
  scale,
  palette,
}: {
  readonly shape: Shape;
  readonly kind: Kind;
  readonly scale: PlanScale;
  readonly palette: Palette;
}) {
  const size = scale.pixelsPerUnit;
  const common = {
    x: shape.x * size,
    y: -shape.y * size,
    // Konva draws any canvas as a pattern; its types name only images.
    fillPatternImage: palette.tile[kind.role] as unknown as HTMLImageElement,
    fillPatternScale: { x: 1 / TILE_SCALE, y: 1 / TILE_SCALE },
    fillPatternRotation: ROLE_PATTERNS[kind.role].turned,
    stroke: palette.role[kind.role],
    strokeWidth: 1.4,
    // Faint things would each be drawn on a surface of their own first; that their edge lies over their fill is not seen.
    perfectDrawEnabled: false,
    ...(kind.role === 'lethal' ? { dash: [5, 3] } : {}),
  };
  if (shape.type === 'circle') return <Circle {...common} radius={shape.radius * size} />;
  if (shape.type === 'polygon') {
    return <Line {...common} closed points={shape.points.flatMap(([x, y]) => [x * size, -y * size])} rotation={-shape.rotation} />;
  }
  const width = shape.width * size;
  const height = shape.height * size;
  return <Rect {...common} width={width} height={height} offsetX={width / 2} offsetY={height / 2} rotation={-shape.rotation} />;
}

/** Half the width of everything a kind's shapes and solid box cover. */
function reachOf(kind: Kind): number {
  const solid = kind.solid === null ? 0 : Math.max(kind.solid.width, kind.solid.height) / 2;
  const shapes = Object.values(kind.shapes).map((shape) => extentOf(shape).most + Math.max(Math.abs(shape.x), Math.abs(shape.y)));
  return Math.max(0.2, solid, ...shapes);
}

function smallestReach(kind: Kind): number {
  return Math.min(reachOf(kind), ...Object.values(kind.shapes).map((shape) => extentOf(shape).least));
}

/** How long a phase of a kind lasts, for the ring that shrinks. */
function phaseSeconds(kind: Kind, phase: PlacementMoment['phase']): number {
  const lengths = Object.values(kind.rules).map(({ becomes, windUp, active }) => {
    if (phase === 'winding up') return windUp?.seconds ?? 0;
    if (phase === 'active') return active.type === 'for' ? active.seconds : 0;
    return becomes.type === 'rests' ? becomes.seconds : 0;
  });
  return Math.max(0.001, phase === 'off' ? (kind.cycle?.off ?? 0) : 0, ...lengths);
}

/** A phase as the level document names it. */
export function phaseKey(phase: PlacementMoment['phase']): keyof Kind['phases'] {
  return phase === 'winding up' ? 'windingUp' : phase;
}

interface SolidBoxProps {
  readonly kind: Kind;
  readonly phase: PlacementMoment['phase'];
  readonly scale: PlanScale;
  readonly palette: Palette;
}

/** The solid box of a thing: a strong edge while it stops players, a dashed one while it does not. */
function SolidBox({ kind, phase, scale, palette }: SolidBoxProps) {
  if (kind.solid === null) return null;
  const { width, height, x, y } = kind.solid;
  const size = scale.pixelsPerUnit;
  const { solid } = kind.phases[phaseKey(phase)];
  return (
    <Rect
      x={(x - width / 2) * size}
      y={-(y + height / 2) * size}
      width={width * size}
      height={height * size}
      stroke={palette.ink}
      strokeWidth={solid ? 2.6 : 1}
      {...(solid ? {} : { dash: [3, 3] })}
    />
  );
}

function Glyph({ kind, radius, palette }: { readonly kind: Kind; readonly radius: number; readonly palette: Palette }) {
  const mark = MARK_SHAPES[kind.mark];
  const grow = (radius * 1.25) / 24;
  return (
    <>
      <Circle radius={radius} fill={palette.card} />
      <Path
        data={mark.path}
        scaleX={grow}
        scaleY={grow}
        x={-12 * grow}
        y={-12 * grow}
        {...(mark.filled ? { fill: palette.ink } : {})}
        stroke={palette.ink}
        strokeWidth={mark.filled ? 1 : 3.4}
        perfectDrawEnabled={false}
        lineCap="round"
        lineJoin="round"
      />
    </>
  );
}

interface ThingProps {
  readonly id: string;
  readonly kind: Kind;
  readonly x: number;
  readonly y: number;
  readonly phase: PlacementMoment['phase'];
  readonly turned: number;
  readonly scale: PlanScale;
  readonly palette: Palette;
  readonly selected: 'no' | 'kind' | 'placement';
  readonly showHidden: boolean;
  readonly onPress: OnPress;
}

/** Whether a thing looks as before: what of its kind is not drawn may be another. */
function looksAlike(before: ThingProps, now: ThingProps): boolean {
  const names = Object.keys(now) as (keyof ThingProps)[];
  const [was, is] = [before.kind, now.kind];
  const sameKind =
    was === is ||
    (was.shapes === is.shapes && was.solid === is.solid && was.phases === is.phases && was.role === is.role && was.mark === is.mark);
  return sameKind && names.every((name) => name === 'kind' || before[name] === now[name]);
}

/** One thing on the Plan: its shapes with the pattern of its role, its mark, and its box. */
export const Thing = memo(function Thing({ id, kind, x, y, phase, turned, scale, palette, selected, showHidden, onPress }: ThingProps) {
  const { shown } = kind.phases[phaseKey(phase)];
  if (shown === 'hidden' && !showHidden) return null;
  const size = scale.pixelsPerUnit;
  const reach = reachOf(kind) * size;
  const opacity = shown === 'full' ? 1 : shown === 'faint' ? 0.45 : 0.16;
  return (
    <Group x={scale.x(x)} y={scale.y(y)} onMouseDown={(event) => onPress?.({ placement: id }, event.evt)} name={`placement ${id}`}>
      {/* What stops players is seen while tuning, also where the thing is not. */}
      <Group opacity={showHidden ? 1 : opacity} rotation={-turned}>
        <SolidBox kind={kind} phase={phase} scale={scale} palette={palette} />
      </Group>
      <Group opacity={opacity} rotation={-turned}>
        {Object.entries(kind.shapes).map(([key, shape]) => (
          <ShapeNode key={key} shape={shape} kind={kind} scale={scale} palette={palette} />
        ))}
        <Glyph kind={kind} radius={Math.max(4.5, Math.min(8.5, smallestReach(kind) * size * 0.72))} palette={palette} />
      </Group>
      {selected !== 'no' && (
        <Circle
          radius={reach + 4}
          stroke={palette.needle}
          strokeWidth={selected === 'placement' ? 2 : 1.2}
          dash={[4, 3]}
          listening={false}
        />
      )}
    </Group>
  );
}, looksAlike);

interface TimerProps extends Pick<ThingProps, 'kind' | 'x' | 'y' | 'phase' | 'scale' | 'palette'> {
  readonly secondsLeft: number;
}

/** The seconds left of a thing's phase, with a ring that shrinks. Apart from the thing, which stays as it is meanwhile. */
export const Timer = memo(function Timer({ kind, x, y, phase, secondsLeft, scale, palette }: TimerProps) {
  const radius = reachOf(kind) * scale.pixelsPerUnit * 0.86;
  return (
    <Group x={scale.x(x)} y={scale.y(y)} listening={false}>
      <Arc
        innerRadius={radius}
        outerRadius={radius + 2.6}
        angle={360 * Math.min(1, secondsLeft / phaseSeconds(kind, phase))}
        rotation={-90}
        fill={palette.ink}
      />
      <Text
        text={`${secondsLeft.toFixed(1)} s`}
        fontFamily={FONT}
        fontSize={11}
        fontStyle="600"
        fill={palette.ink}
        x={-30}
        width={60}
        y={11}
        align="center"
      />
    </Group>
  );
});
