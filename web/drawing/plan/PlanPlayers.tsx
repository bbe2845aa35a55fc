import type { Level } from '@dial/core/level';
import type { PlayerMoment } from '@dial/core/session';
import { memo, useMemo } from 'react';
import { Circle, Group, Line, Path, Rect, Text } from './konva.ts';
import type { Palette } from '../palette.ts';
import type { PlanScale } from './planScale.ts';
import { FONT } from './PlanThing.tsx';

/** The way of a run. */
export interface PlanTrack {
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** Steps at which one was put elsewhere: up to there nobody walked. */
  readonly breaks: ReadonlySet<number>;
}

/** A place of the ghost. */
export interface GhostPlace {
  readonly x: number;
  readonly y: number;
}

/** A track may lie this far beside where the player was. Pixels. */
const TRACK_SLACK = 0.4;

/** A way as it was walked, in pieces, and the leaps between them. */
interface Pieces {
  readonly walked: readonly (readonly number[])[];
  readonly leaps: readonly (readonly number[])[];
}

/** A track as few points as show it: where it goes straight on, none. Dashed lines of thousands of pieces are dear to draw. */
function trackPieces({ x, y, breaks }: PlanTrack, scale: PlanScale): Pieces {
  let [keptX, keptY] = [scale.x(x[0] ?? 0), scale.y(y[0] ?? 0)];
  let points = [keptX, keptY];
  const walked = [points];
  const leaps: number[][] = [];
  for (let step = 1; step < x.length; step += 1) {
    const [hereX, hereY] = [scale.x(x[step] ?? 0), scale.y(y[step] ?? 0)];
    if (breaks.has(step)) {
      const [fromX, fromY] = [scale.x(x[step - 1] ?? 0), scale.y(y[step - 1] ?? 0)];
      leaps.push([fromX, fromY, hereX, hereY]);
      points = [hereX, hereY];
      walked.push(points);
      [keptX, keptY] = [hereX, hereY];
      continue;
    }
    const last = step === x.length - 1 || breaks.has(step + 1);
    const [wayX, wayY] = [scale.x(x[step + 1] ?? 0) - keptX, scale.y(y[step + 1] ?? 0) - keptY];
    const length = Math.hypot(wayX, wayY);
    const [goneX, goneY] = [hereX - keptX, hereY - keptY];
    const beside = length === 0 ? Math.hypot(goneX, goneY) : Math.abs(wayX * goneY - wayY * goneX) / length;
    const back = wayX * goneX + wayY * goneY < 0;
    const turned = length < Math.hypot(goneX, goneY) - TRACK_SLACK;
    if (!last && beside < TRACK_SLACK && !back && !turned) continue;
    points.push(hereX, hereY);
    [keptX, keptY] = [hereX, hereY];
  }
  return { walked: walked.filter(({ length }) => length > 2), leaps };
}

/** The way of a run, dashed for the ghost's; where one was put elsewhere, dots. */
export const Track = memo(function Track({
  track,
  scale,
  dashed,
  palette,
}: {
  readonly track: PlanTrack;
  readonly scale: PlanScale;
  readonly dashed: boolean;
  readonly palette: Palette;
}) {
  const { walked, leaps } = useMemo(() => trackPieces(track, scale), [track, scale]);
  const look = dashed
    ? { stroke: palette.soft, strokeWidth: 1.3, dash: [5, 4], opacity: 0.8 }
    : { stroke: palette.ink, strokeWidth: 1.4, lineJoin: 'round' as const, opacity: 0.6 };
  return (
    <>
      {walked.map((points, index) => (
        <Line key={index} points={[...points]} {...look} />
      ))}
      {leaps.map((points, index) => (
        <Line key={`leap ${String(index)}`} points={[...points]} {...look} dash={[1, 6]} lineCap="round" opacity={0.5} />
      ))}
    </>
  );
});

/** A player: where they are, which way they go, how much health they have. */
export function Player({
  player,
  number,
  level,
  scale,
  palette,
}: {
  readonly player: PlayerMoment;
  /** Which of several players it is; null for the only one. */
  readonly number: number | null;
  readonly level: Level;
  readonly scale: PlanScale;
  readonly palette: Palette;
}) {
  const width = level.body.width * scale.pixelsPerUnit;
  const height = level.body.height * scale.pixelsPerUnit;
  const radius = level.view === 'top' ? Math.max(5, level.body.radius * scale.pixelsPerUnit) : height / 2;
  if (player.life === 'absent' || player.life === 'out') return null;
  const speed = Math.hypot(player.velocityX, player.velocityY);
  const health = level.meters['health'];
  const share =
    health?.upper == null ? null : ((player.meters['health'] ?? 0) - health.lower) / Math.max(1e-9, health.upper - health.lower);
  return (
    <Group x={scale.x(player.x)} y={scale.y(player.y)} listening={false}>
      {level.view === 'top' ? (
        <Circle radius={radius} fill={palette.card} stroke={palette.ink} strokeWidth={2.4} />
      ) : (
        <Rect
          x={-width / 2}
          y={-height / 2}
          width={width}
          height={height}
          cornerRadius={3}
          fill={palette.card}
          stroke={palette.ink}
          strokeWidth={2.4}
        />
      )}
      {number !== null && (
        <Text
          text={String(number)}
          x={-radius}
          y={-5}
          width={2 * radius}
          align="center"
          fontFamily={FONT}
          fontSize={11}
          fontStyle="600"
          fill={palette.ink}
        />
      )}
      {speed > 0.05 && (
        <Line
          points={[number === null ? 0 : radius, radius + 6].flatMap((from) => [
            (player.velocityX / speed) * from,
            (-player.velocityY / speed) * from,
          ])}
          stroke={palette.ink}
          strokeWidth={2.4}
          lineCap="round"
        />
      )}
      {player.dead && <Path data="M5 5 L19 19 M19 5 L5 19" x={-12} y={-12} stroke={palette.role.harm} strokeWidth={3} />}
      {share !== null && (
        <Group y={-radius - 9} x={-13}>
          <Rect width={26} height={4.5} fill={palette.card} stroke={palette.ink} strokeWidth={1} />
          <Rect width={26 * Math.max(0, Math.min(1, share))} height={4.5} fill={palette.role.mend} />
        </Group>
      )}
    </Group>
  );
}

/** Where the player of the other version is at the same moment, dashed. */
export function GhostPlayer({
  at,
  level,
  scale,
  palette,
}: {
  readonly at: GhostPlace;
  readonly level: Level;
  readonly scale: PlanScale;
  readonly palette: Palette;
}) {
  const look = { stroke: palette.soft, strokeWidth: 2, dash: [4, 3], listening: false };
  const [x, y] = [scale.x(at.x), scale.y(at.y)];
  const { body, view } = level;
  const size = scale.pixelsPerUnit;
  if (view === 'top') return <Circle x={x} y={y} radius={Math.max(5, body.radius * size)} {...look} />;
  return (
    <Rect
      x={x - (body.width * size) / 2}
      y={y - (body.height * size) / 2}
      width={body.width * size}
      height={body.height * size}
      {...look}
    />
  );
}
