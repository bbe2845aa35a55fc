import type { Role } from '@dial/core/level';
import { Circle, Group, Line, Text } from './konva.ts';
import type { Palette } from '../palette.ts';
import type { PlanScale } from './planScale.ts';
import { FONT } from './PlanThing.tsx';

/** Something seen for a moment at a place. It belongs to the session: it goes on when its thing is gone. */
export interface ShownFlourish {
  readonly key: string;
  readonly x: number;
  readonly y: number;
  readonly shape: 'ring' | 'burst' | 'rising number';
  readonly text: string;
  readonly role: Role;
  readonly begunSeconds: number;
  readonly seconds: number;
  /** How many numbers close by, which rise still, its own stands above. */
  readonly row: number;
}

const RAYS = Array.from({ length: 8 }, (_, index) => (index * Math.PI) / 4);
const GROWS = 26;
const RISES = 30;
/** Pixels from one number to the next. */
const ROW = 16;

/** Flourishes as they are at a moment of the session: halted with it, and as fast as it goes. */
export function PlanFlourishes({
  flourishes,
  seconds,
  scale,
  palette,
}: {
  readonly flourishes: readonly ShownFlourish[];
  readonly seconds: number;
  readonly scale: PlanScale;
  readonly palette: Palette;
}) {
  const still = matchMedia('(prefers-reduced-motion: reduce)').matches;
  return flourishes.map(({ key, x, y, shape, text, role, row, begunSeconds, seconds: lasts }) => {
    const gone = (seconds - begunSeconds) / lasts;
    if (gone < 0 || gone > 1) return null;
    const [moved, fading] = still ? [0.5, 1] : [gone, 1 - gone];
    const colour = palette.role[role];
    return (
      <Group key={key} x={scale.x(x)} y={scale.y(y)} opacity={fading} listening={false}>
        {shape === 'ring' && <Circle radius={8 + GROWS * moved} stroke={colour} strokeWidth={2.5} />}
        {shape === 'burst' &&
          RAYS.map((angle) => {
            const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
            const [near, far] = [8 + GROWS * moved * 0.6, 12 + GROWS * moved];
            return (
              <Line key={angle} points={[cos * near, sin * near, cos * far, sin * far]} stroke={colour} strokeWidth={2.5} lineCap="round" />
            );
          })}
        {text !== '' && (
          <Text
            text={text}
            x={-40}
            width={80}
            y={-18 - RISES * moved - row * ROW}
            align="center"
            fontFamily={FONT}
            fontSize={14}
            fontStyle="600"
            fill={colour}
            stroke={palette.card}
            strokeWidth={3}
            fillAfterStrokeEnabled
          />
        )}
      </Group>
    );
  });
}
