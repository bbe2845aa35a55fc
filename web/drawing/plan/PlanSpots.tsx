import { inOrder, kindOfPlacement, pointer, type Destination, type Kind, type Level } from '@dial/core/level';
import { memo, useMemo } from 'react';
import { Circle, Group, Rect, Text } from './konva.ts';
import type { Palette } from '../palette.ts';
import type { PlanScale } from './planScale.ts';
import { placeNames } from './pointNames.ts';
import { FONT, type OnPress } from './PlanThing.tsx';
import { StillArrow, StillLine } from './StillLine.tsx';

/** The points a kind sends players to. */
function pointsSentTo(kind: Kind): string[] {
  const ids = (to: Destination | null): string[] => {
    if (to?.type === 'point') return [to.point];
    if (to?.type === 'nearest') return [...to.points];
    return to?.type === 'weighted' ? Object.keys(to.points) : [];
  };
  return Object.values(kind.rules).flatMap(({ effects }) =>
    Object.values(effects).flatMap((effect) =>
      effect.type === 'kill'
        ? ids(effect.returnTo)
        : effect.type === 'move'
          ? ids(effect.to)
          : effect.type === 'checkpoint' && effect.point !== null
            ? [effect.point]
            : [],
    ),
  );
}

interface Way {
  readonly path: string;
  readonly route: boolean;
  readonly closed: boolean;
  readonly spots: readonly { readonly x: number; readonly y: number }[];
}

function waysOf(level: Level): Way[] {
  const paths = inOrder(level.paths).map(([id, path]) => ({
    path: pointer(['paths', id, 'wayPoints']),
    route: false,
    closed: path.round === 'loop',
    spots: path.wayPoints,
  }));
  const routes = inOrder(level.routes).map(([id, { wayPoints }]) => ({
    path: pointer(['routes', id, 'wayPoints']),
    route: true,
    closed: false,
    spots: wayPoints,
  }));
  return [...paths, ...routes];
}

interface PlanSpotsProps {
  readonly level: Level;
  readonly scale: PlanScale;
  readonly palette: Palette;
  readonly selected: string | null;
  /** Whether only the start and what the chosen spot is part of are drawn, over the things, or all the rest, under them. */
  readonly chosen: boolean;
  /** Whether routes are drawn besides the chosen one: there may be many, and they cross everything. */
  readonly routes: boolean;
  /** Things drawn elsewhere than where they are placed. */
  readonly at: (placement: string) => { readonly x: number; readonly y: number };
  readonly onPress: OnPress;
}

/** What is on the Plan but not in play: the start, points, links to them, paths and routes. */
export const PlanSpots = memo(function PlanSpots({ level, scale, palette, selected, chosen, routes, at, onPress }: PlanSpotsProps) {
  const shown = (path: string): boolean => chosen === (selected === path || selected?.startsWith(`${path}/`) === true);
  const press = (spot: string) => (event: { readonly evt: MouseEvent; cancelBubble: boolean }) => {
    event.cancelBubble = true;
    onPress?.({ spot }, event.evt);
  };
  const colour = palette.role.return;
  const names = useMemo(() => placeNames(level, scale), [level, scale]);
  const links = (chosen ? [] : inOrder(level.placements)).flatMap(([id]) => {
    const kind = kindOfPlacement(level, id);
    return kind === undefined ? [] : pointsSentTo(kind).map((point) => ({ id, point }));
  });
  return (
    <>
      {waysOf(level)
        .filter(({ path, route }) => shown(path) && (chosen || routes || !route))
        .map(({ path, route, closed, spots }) => {
          const own = selected?.startsWith(`${path}/`) === true;
          const ink = own ? palette.needle : palette.soft;
          return (
            <Group key={path}>
              <StillLine
                points={spots.flatMap(({ x, y }) => [scale.x(x), scale.y(y)])}
                closed={closed}
                stroke={ink}
                strokeWidth={1.3}
                dash={route ? [1, 5] : [6, 3, 1, 3]}
                lineCap="round"
                listening={false}
              />
              {spots.map(({ x, y }, index) => {
                const spot = `${path}/${String(index)}`;
                const here = spot === selected;
                return (
                  <Rect
                    key={spot}
                    name={`spot ${spot}`}
                    x={scale.x(x)}
                    y={scale.y(y)}
                    offsetX={here ? 5 : 3.5}
                    offsetY={here ? 5 : 3.5}
                    width={here ? 10 : 7}
                    height={here ? 10 : 7}
                    cornerRadius={route ? 5 : 0}
                    fill={palette.card}
                    stroke={here ? palette.needle : ink}
                    strokeWidth={here ? 2 : 1.3}
                    hitStrokeWidth={10}
                    onMouseDown={press(spot)}
                  />
                );
              })}
            </Group>
          );
        })}
      {links.map(({ id, point }) => {
        const to = level.points[point];
        const from = at(id);
        return to === undefined ? null : (
          <StillArrow
            key={`${id} ${point}`}
            points={[scale.x(from.x), scale.y(from.y), scale.x(to.x), scale.y(to.y)]}
            stroke={colour}
            fill={colour}
            strokeWidth={1.2}
            dash={[3, 4]}
            pointerLength={6}
            pointerWidth={6}
            listening={false}
          />
        );
      })}
      {inOrder(level.points)
        .filter(([id]) => shown(pointer(['points', id])))
        .map(([id, { name, x, y }]) => {
          const spot = pointer(['points', id]);
          const here = spot === selected;
          const box = names.get(id);
          return (
            <Group key={id} x={scale.x(x)} y={scale.y(y)} name={`spot ${spot}`} onMouseDown={press(spot)}>
              <Circle
                radius={6}
                fill={palette.card}
                stroke={here ? palette.needle : colour}
                strokeWidth={here ? 2.4 : 1.6}
                hitStrokeWidth={8}
              />
              <StillLine points={[0, -10, 0, 10]} stroke={here ? palette.needle : colour} strokeWidth={1.2} listening={false} />
              <StillLine points={[-10, 0, 10, 0]} stroke={here ? palette.needle : colour} strokeWidth={1.2} listening={false} />
              {box !== undefined && (
                <Text
                  text={name}
                  fontFamily={FONT}
                  fontSize={10.5}
                  fill={palette.ink}
                  x={box.left - scale.x(x)}
                  y={box.top - scale.y(y)}
                  wrap="none"
                  listening={false}
                />
              )}
            </Group>
          );
        })}
      {chosen && <StartPlace level={level} scale={scale} palette={palette} selected={selected === '/start'} onPress={press('/start')} />}
    </>
  );
});

/** Where players start: corners around the place, so that whoever stands there is seen. */
function StartPlace({
  level,
  scale,
  palette,
  selected,
  onPress,
}: {
  readonly level: Level;
  readonly scale: PlanScale;
  readonly palette: Palette;
  readonly selected: boolean;
  readonly onPress: (event: { readonly evt: MouseEvent; cancelBubble: boolean }) => void;
}) {
  const reach = Math.max(7, (level.view === 'top' ? level.body.radius : level.body.height / 2) * scale.pixelsPerUnit) + 4;
  const ink = selected ? palette.needle : palette.ink;
  return (
    <Group x={scale.x(level.start.x)} y={scale.y(level.start.y)} name="spot /start" onMouseDown={onPress}>
      <Rect x={-reach} y={-reach} width={2 * reach} height={2 * reach} />
      {[-1, 1].flatMap((h) =>
        [-1, 1].map((v) => (
          <StillLine
            key={`${String(h)} ${String(v)}`}
            points={[h * reach, v * (reach - 5), h * reach, v * reach, h * (reach - 5), v * reach]}
            stroke={ink}
            strokeWidth={selected ? 2.4 : 1.5}
            listening={false}
          />
        )),
      )}
      <Text
        text="start"
        fontFamily={FONT}
        fontSize={10.5}
        fill={ink}
        x={-30}
        width={60}
        y={reach + 2}
        align="center"
        wrap="none"
        listening={false}
      />
    </Group>
  );
}
