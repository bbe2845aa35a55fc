import { inOrder, kindOf, kindOfPlacement, type Kind, type Level } from '@dial/core/level';
import type { Moment } from '@dial/core/session';
import type Konva from 'konva';
import { memo, useCallback, useEffect, useMemo, useRef } from 'react';
import { Group, Image, Label, Layer, Line, Rect, Stage, Tag, Text } from './konva.ts';
import { usePalette, type Palette } from '../palette.ts';
import { fitPlan, type PlanScale } from './planScale.ts';
import { GhostPlayer, Player, Track, type GhostPlace, type PlanTrack } from './PlanPlayers.tsx';
import { PlanFlourishes, type ShownFlourish } from './PlanFlourishes.tsx';
import { PlanSpots } from './PlanSpots.tsx';
import { StillLine } from './StillLine.tsx';
import { FONT, ChosenRing, phaseKey, Thing, Timer, turnedPlace, type OnPress, type Pressed } from './PlanThing.tsx';
import { reachOf } from './thingPicture.ts';
import { useFontsReady } from './useFontsReady.ts';

/** Something that has just happened, written at its place. */
export interface PlanLabel {
  readonly key: number;
  readonly x: number;
  readonly y: number;
  /** How many labels close by it stands above. */
  readonly row: number;
  readonly text: string;
  readonly colour: string;
}

interface PlanDrawingProps {
  readonly level: Level;
  readonly width: number;
  readonly height: number;
  /** Who and what is where; without one, all is as placed. */
  readonly moment: Moment | null;
  /** The ways of all players. */
  readonly tracks?: readonly PlanTrack[];
  readonly ghost?: PlanTrack | null;
  readonly ghostPlace?: GhostPlace | null;
  readonly labels?: readonly PlanLabel[];
  readonly selectedKind?: string | null;
  readonly selectedPlacements?: readonly string[];
  readonly selectedSolid?: string | null;
  /** JSON Pointer of the chosen place; spots are drawn only where this is given, null for none. */
  readonly selectedSpot?: string | null;
  readonly routesShown?: boolean;
  /** Where units fall; without it the level is fitted in whole. */
  readonly scale?: PlanScale;
  /** Things that are being moved: drawn as placed, whatever the moment says. */
  readonly dragged?: readonly string[];
  /** While playing, what is hidden is hidden; while tuning it stays to be chosen. */
  readonly showHidden: boolean;
  /** Things and solids set aside: not drawn at all. */
  readonly hiddenThings?: ReadonlySet<string>;
  readonly hiddenSolids?: ReadonlySet<string>;
  readonly flourishes?: readonly ShownFlourish[];
  /** The level's background picture, once it is there. */
  readonly picture?: HTMLImageElement | null;
  /** While a session is played, nothing can be pressed. */
  readonly running?: boolean;
  /** The main button was pressed on a thing, a solid, or nothing. */
  readonly onPress?: OnPress;
}

interface BackdropProps {
  readonly size: Level['size'];
  readonly background: Level['background'];
  readonly picture: HTMLImageElement | null;
  readonly scale: PlanScale;
  readonly palette: Palette;
}

const Backdrop = memo(function Backdrop({ size, background, picture, scale, palette }: BackdropProps) {
  const { width, height } = size;
  const lines: { key: string; points: number[]; strong: boolean }[] = [];
  const every = scale.pixelsPerUnit < 6 ? 5 : 1;
  for (let x = 0; x <= width; x += every)
    lines.push({ key: `x${String(x)}`, points: [scale.x(x), scale.y(0), scale.x(x), scale.y(height)], strong: x % 5 === 0 });
  for (let y = 0; y <= height; y += every)
    lines.push({ key: `y${String(y)}`, points: [scale.x(0), scale.y(y), scale.x(width), scale.y(y)], strong: y % 5 === 0 });
  return (
    <Layer listening={false}>
      <Rect
        x={scale.x(0)}
        y={scale.y(height)}
        width={width * scale.pixelsPerUnit}
        height={height * scale.pixelsPerUnit}
        fill={palette.paper}
      />
      {background !== null && picture !== null && (
        <Image
          image={picture}
          x={scale.x(background.x)}
          y={scale.y(background.y + picture.naturalHeight / background.pixelsPerUnit)}
          width={(picture.naturalWidth / background.pixelsPerUnit) * scale.pixelsPerUnit}
          height={(picture.naturalHeight / background.pixelsPerUnit) * scale.pixelsPerUnit}
          opacity={background.strength}
        />
      )}
      {lines.map(({ key, points, strong }) => (
        <Line key={key} points={points} stroke={palette.line} strokeWidth={strong ? 0.9 : 0.4} opacity={strong ? 0.8 : 0.6} />
      ))}
    </Layer>
  );
});

interface SolidsProps {
  readonly solids: Level['solids'];
  readonly scale: PlanScale;
  readonly palette: Palette;
  readonly selected: string | null;
  readonly hidden: ReadonlySet<string> | undefined;
  readonly onPress: OnPress;
}

/** The solids; of a one-way platform only the top edge is drawn strong. */
const Solids = memo(function Solids({ solids, scale, palette, selected, hidden, onPress }: SolidsProps) {
  const ink = palette.theme === 'light' ? palette.ink : palette.soft;
  return inOrder(solids).map(([id, solid]) => {
    if (hidden?.has(id) === true) return null;
    const [x, y] = [scale.x(solid.x), scale.y(solid.y + solid.height)];
    const [width, height] = [solid.width * scale.pixelsPerUnit, solid.height * scale.pixelsPerUnit];
    const whole = solid.sides.length === 4;
    return (
      <Group key={id} x={x} y={y} onMouseDown={(event) => onPress?.({ solid: id }, event.evt)} name={`solid ${id}`}>
        <Rect width={width} height={height} fill={ink} opacity={whole ? 1 : 0.25} stroke={ink} strokeWidth={0.7} />
        {!whole && solid.sides.includes('top') && <StillLine points={[0, 0, width, 0]} stroke={ink} strokeWidth={3} />}
        {selected === id && (
          <Rect
            x={-4}
            y={-4}
            width={width + 8}
            height={height + 8}
            stroke={palette.needle}
            strokeWidth={2}
            dash={[4, 3]}
            listening={false}
          />
        )}
      </Group>
    );
  });
});

/** Everything to draw: what is placed, then what has been spawned by this moment. */
function thingsOf(level: Level, moment: Moment | null, dragged: ReadonlySet<string>) {
  const placed = inOrder(level.placements).flatMap(([id, placement]) => {
    const kind = kindOfPlacement(level, id);
    const still = { x: placement.x, y: placement.y, phase: 'ready' as const, secondsLeft: null, turnedDegrees: 0, pivotX: 0, pivotY: 0 };
    const at = (dragged.has(id) ? undefined : moment?.placements[id]) ?? still;
    return kind === undefined
      ? []
      : [
          {
            id,
            kindId: placement.kind,
            kind,
            at,
            moves: placement.travel !== null || at.x !== placement.x || at.y !== placement.y,
          },
        ];
  });
  const spawned = Object.entries(moment?.placements ?? {}).flatMap(([id, at]) => {
    const kind = id in level.placements ? undefined : kindOf(level, at.kind);
    return kind === undefined ? [] : [{ id, kindId: at.kind, kind, at, moves: true }];
  });
  // Small things lie over large ones, so that each can be pressed.
  const reaches = new Map<Kind, number>();
  for (const { kind } of [...placed, ...spawned]) if (!reaches.has(kind)) reaches.set(kind, reachOf(kind));
  return [...placed, ...spawned].sort((a, b) => (reaches.get(b.kind) ?? 0) - (reaches.get(a.kind) ?? 0));
}

/** All that can be pressed at a place of the surface, the uppermost first. */
function pileAt(stage: Konva.Stage): Pressed[] {
  const at = stage.getPointerPosition();
  if (at === null) return [];
  const names = stage.getAllIntersections(at).flatMap((shape) => {
    const named = shape.name() === '' ? shape.getParent()?.name() : shape.name();
    return named === undefined || named === '' ? [] : [named];
  });
  return [...new Set(names.reverse())].flatMap((name): Pressed[] => {
    const [, sort, id = ''] = /^(placement|solid|spot) (.+)$/.exec(name) ?? [];
    return sort === undefined ? [] : [{ [sort]: id }];
  });
}

/**
 * Layers of which it is known what can be pressed only while a pointer is over them: finding out costs as much again as
 * drawing them. While a session runs, nothing can be pressed.
 */
function usePressedUnderPointer(running: boolean) {
  const still = useRef<Konva.Layer>(null);
  const top = useRef<Konva.Layer>(null);
  const over = useRef(false);
  const listen = (): void => {
    for (const layer of [still.current, top.current]) {
      const wanted = over.current && !running;
      if (layer === null || layer.listening() === wanted) continue;
      layer.listening(wanted);
      if (wanted) layer.drawHit();
    }
  };
  useEffect(listen);
  const pointerCame = (): void => {
    over.current = true;
    listen();
  };
  const pointerLeft = (): void => {
    over.current = false;
    listen();
  };
  return { still, top, pointerCame, pointerLeft };
}

type Shown = ReturnType<typeof thingsOf>[number];

interface Drawn extends Pick<PlanDrawingProps, 'showHidden'> {
  readonly scale: PlanScale;
  readonly palette: Palette;
}

function DrawnThing({ thing: { id, kind, at }, ...rest }: Drawn & { readonly thing: Shown; readonly onPress: OnPress }) {
  const { x, y, phase, turnedDegrees, pivotX, pivotY } = at;
  return <Thing id={id} kind={kind} x={x} y={y} phase={phase} turned={turnedDegrees} pivotX={pivotX} pivotY={pivotY} {...rest} />;
}

/** The seconds until things are ready again. */
function Timers({ things, scale, palette, showHidden }: Drawn & { readonly things: readonly Shown[] }) {
  return things.map(
    ({ id, kind, at: { x, y, phase, secondsLeft } }) =>
      secondsLeft !== null &&
      phase !== 'ready' &&
      (showHidden || kind.phases[phaseKey(phase)].shown !== 'hidden') && (
        <Timer key={`timer ${id}`} kind={kind} x={x} y={y} phase={phase} secondsLeft={secondsLeft} scale={scale} palette={palette} />
      ),
  );
}

function Players({ players, level, ...rest }: Omit<Drawn, 'showHidden'> & { readonly players: Moment['players']; readonly level: Level }) {
  return players.map((player, index) => (
    <Player key={index} player={player} number={players.length > 1 ? index + 1 : null} level={level} {...rest} />
  ));
}

/** What just happened, in words. */
function Labels({ labels, scale, palette }: Omit<Drawn, 'showHidden'> & { readonly labels: NonNullable<PlanDrawingProps['labels']> }) {
  return labels.map(({ key, x, y, row, text, colour }) => (
    <Label key={key} x={scale.x(x) + 20} y={scale.y(y) - 52 - row * 22} listening={false}>
      <Tag fill={colour} cornerRadius={9} />
      <Text text={text} padding={4} fontFamily={FONT} fontSize={11} fontStyle="600" fill={palette.card} />
    </Label>
  ));
}

/** Draws a level as it is at one moment, and anew only when something in it is another: solids, things with their phases, players, tracks, and what just happened. */
export const PlanDrawing = memo(function PlanDrawing(props: PlanDrawingProps) {
  const { level, width, height, moment, tracks = [], ghost, labels = [], showHidden } = props;
  const { selectedPlacements = [], dragged = [] } = props;
  const palette = usePalette();
  const fontsReady = useFontsReady();
  const { width: levelWidth, height: levelHeight } = level.size;
  const fitted = useMemo(() => fitPlan(levelWidth, levelHeight, width, height), [levelWidth, levelHeight, width, height]);
  const scale = props.scale ?? fitted;
  const { still, top, pointerCame, pointerLeft } = usePressedUnderPointer(props.running === true);
  const stage = useRef<Konva.Stage>(null);
  const { onPress: told } = props;
  const onPress = useCallback(
    (what: Pressed, event: MouseEvent) => told?.(what, event, () => (stage.current === null ? [] : pileAt(stage.current))),
    [told],
  );
  if (width < 10 || height < 10) return null;
  const chosenIds = new Set(selectedPlacements);
  const draggedIds = new Set(dragged);
  const things = thingsOf(level, moment, draggedIds).filter(({ id }) => props.hiddenThings?.has(id) !== true);
  const spots = (chosen: boolean) =>
    props.selectedSpot !== undefined && (
      <PlanSpots
        level={level}
        scale={scale}
        palette={palette}
        selected={props.selectedSpot}
        chosen={chosen}
        routes={props.routesShown === true}
        at={(id) => things.find((thing) => thing.id === id)?.at ?? level.start}
        onPress={onPress}
      />
    );
  /** What is drawn in every frame, or is dragged; all else stays as it is drawn. */
  const onTop = ({ id, moves }: Shown): boolean => moves || draggedIds.has(id);
  const drawing = { scale, palette, showHidden, onPress };
  const draw = (thing: Shown) => <DrawnThing key={thing.id} thing={thing} {...drawing} />;
  const ringed = ({ id, kindId }: Shown): boolean => (chosenIds.size > 0 ? chosenIds.has(id) : props.selectedKind === kindId);
  const ring = ({ id, kind, at: { x, y, turnedDegrees: turned, pivotX, pivotY } }: Shown) => (
    <ChosenRing
      key={`ring ${id}`}
      kind={kind}
      {...turnedPlace({ x, y, turned, pivotX, pivotY })}
      scale={scale}
      palette={palette}
      strong={chosenIds.size > 0}
    />
  );
  return (
    <Stage
      ref={stage}
      // Text is measured once; with other fonts everything is drawn anew.
      key={String(fontsReady)}
      width={width}
      height={height}
      onPointerEnter={pointerCame}
      onPointerMove={pointerCame}
      onPointerLeave={pointerLeft}
      onMouseDown={(event) => {
        if (event.target === event.target.getStage()) onPress({}, event.evt);
      }}
    >
      <Backdrop size={level.size} background={level.background} picture={props.picture ?? null} scale={scale} palette={palette} />
      <Layer ref={still} listening={false}>
        {spots(false)}
        <Solids
          solids={level.solids}
          scale={scale}
          palette={palette}
          selected={props.selectedSolid ?? null}
          hidden={props.hiddenSolids}
          onPress={onPress}
        />
        {things.filter((thing) => !onTop(thing)).map(draw)}
        {/* Of a whole kind there may be a thousand: they stay as they are drawn. */}
        {chosenIds.size === 0 && things.filter((thing) => ringed(thing) && !onTop(thing)).map(ring)}
      </Layer>
      {/* In a layer of its own: it stays as it is while a dial is turned. */}
      <Layer listening={false}>{ghost != null && <Track track={ghost} scale={scale} dashed palette={palette} />}</Layer>
      <Layer listening={false}>
        {tracks.map((track, player) => (
          <Track key={player} track={track} scale={scale} dashed={false} palette={palette} />
        ))}
      </Layer>
      {/* What travels or is chosen, seconds left, players, and what just happened: drawn anew in every frame while a session runs. */}
      <Layer ref={top} listening={false}>
        {things.filter(onTop).map(draw)}
        {things.filter((thing) => ringed(thing) && (chosenIds.size > 0 || onTop(thing))).map(ring)}
        <Timers things={things} scale={scale} palette={palette} showHidden={showHidden} />
        {spots(true)}
        {props.ghostPlace != null && <GhostPlayer at={props.ghostPlace} level={level} scale={scale} palette={palette} />}
        <Players players={moment?.players ?? []} level={level} scale={scale} palette={palette} />
        {props.flourishes !== undefined && (
          <PlanFlourishes flourishes={props.flourishes} seconds={moment?.seconds ?? 0} scale={scale} palette={palette} />
        )}
        <Labels labels={labels} scale={scale} palette={palette} />
      </Layer>
    </Stage>
  );
});
