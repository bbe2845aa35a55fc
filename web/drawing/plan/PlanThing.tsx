import { plainNumber } from '@dial/core/formats';
import type { Kind } from '@dial/core/level';
import type { PlacementMoment } from '@dial/core/session';
import type Konva from 'konva';
import { memo } from 'react';
import { Arc, Circle, Group, Shape, Text } from './konva.ts';
import type { Palette } from '../palette.ts';
import type { PlanScale } from './planScale.ts';
import { reachOf, showThing, tracePressed, type ThingLook } from './thingPicture.ts';

export const FONT = 'IBM Plex Mono';

/** What was pressed on the Plan. */
export interface Pressed {
  readonly placement?: string;
  readonly solid?: string;
  /** JSON Pointer to a place of the level. */
  readonly spot?: string;
}

/** All that can be pressed where the pointer is, the uppermost first. */
export type Pile = () => readonly Pressed[];

/** The main button was pressed on a thing, a solid, a spot, or nothing. */
export type OnPress = ((what: Pressed, event: MouseEvent, pile?: Pile) => void) | undefined;

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

interface ThingProps {
  readonly id: string;
  readonly kind: Kind;
  readonly x: number;
  readonly y: number;
  readonly phase: PlacementMoment['phase'];
  /** Degrees, anticlockwise, about the pivot, which is from its place. */
  readonly turned: number;
  readonly pivotX: number;
  readonly pivotY: number;
  readonly scale: PlanScale;
  readonly palette: Palette;
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

/** A surface of Konva's, as the browser knows it. */
const plain = (context: Konva.Context): CanvasRenderingContext2D => context._context;

/** A place on whole pixels of the surface, where a picture stays sharp. */
const onPixel = (at: number): number => Math.round(at * devicePixelRatio) / devicePixelRatio;

/** Where the place of a thing is once it has turned about its pivot. */
export function turnedPlace({ x, y, turned, pivotX, pivotY }: Pick<ThingProps, 'x' | 'y' | 'turned' | 'pivotX' | 'pivotY'>): {
  readonly x: number;
  readonly y: number;
} {
  const radians = (turned * Math.PI) / 180;
  const [cos, sin] = [Math.cos(radians), Math.sin(radians)];
  return { x: x + pivotX - pivotX * cos + pivotY * sin, y: y + pivotY - pivotX * sin - pivotY * cos };
}

/** One thing on the Plan: its shapes with the pattern of its role, its mark, and its box. */
export const Thing = memo(function Thing(props: ThingProps) {
  const { id, kind, phase, turned, scale, palette, showHidden, onPress } = props;
  const { shown, solid: stops } = kind.phases[phaseKey(phase)];
  if (shown === 'hidden' && !showHidden) return null;
  const size = scale.pixelsPerUnit;
  const strength = shown === 'full' ? 1 : shown === 'faint' ? 0.45 : 0.16;
  // What stops players is seen while tuning, also where the thing is not.
  const look: ThingLook = { kind, stops, strength, boxStrength: showHidden ? 1 : strength, size };
  const { x, y } = turnedPlace(props);
  const at = { x: onPixel(scale.x(x)), y: onPixel(scale.y(y)) };
  return (
    <Shape
      {...at}
      rotation={-turned}
      name={`placement ${id}`}
      fill={palette.card}
      sceneFunc={(context) => showThing(plain(context), look, devicePixelRatio, palette)}
      hitFunc={(context, shape) => tracePressed(plain(context), look, () => context.fillShape(shape))}
      onMouseDown={(event) => onPress?.({ placement: id }, event.evt)}
    />
  );
}, looksAlike);

/** The ring around a thing that is chosen, or whose kind is. Over all things, so that a large one that is chosen hides none. */
export const ChosenRing = memo(function ChosenRing({
  kind,
  x,
  y,
  scale,
  palette,
  strong,
}: Pick<ThingProps, 'kind' | 'x' | 'y' | 'scale' | 'palette'> & { readonly strong: boolean }) {
  return (
    <Circle
      x={scale.x(x)}
      y={scale.y(y)}
      radius={reachOf(kind) * scale.pixelsPerUnit + 4}
      stroke={palette.needle}
      strokeWidth={strong ? 2 : 1.2}
      dash={[4, 3]}
      listening={false}
    />
  );
});

interface TimerProps extends Pick<ThingProps, 'kind' | 'x' | 'y' | 'phase' | 'scale' | 'palette'> {
  readonly secondsLeft: number;
}

/** Pixels. */
const WIDE_RING = 27;

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
        text={`${plainNumber(secondsLeft, 1)} s`}
        fontFamily={FONT}
        fontSize={11}
        fontStyle="600"
        fill={palette.ink}
        x={-30}
        width={60}
        // In a wide ring under the mark, else under the ring.
        y={radius > WIDE_RING ? 11 : radius + 5}
        align="center"
      />
    </Group>
  );
});
