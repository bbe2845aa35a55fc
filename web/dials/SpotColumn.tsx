import { placementName, plainNumber } from '@dial/core/formats';
import { entry, fieldAt, inOrder, type Level, levelFields, pointer, roundSeconds, valueAt, spotDials } from '@dial/core/level';
import { setValue } from '../state/document/edits.ts';
import {
  addWayPoint,
  placeOfSpot,
  removeSpot,
  removeWay,
  spotName,
  walk,
  wayPointPath,
  type PlanSpot,
  type Ways,
} from '../state/document/spots.ts';
import { viewActions } from '../state/slices/view.ts';
import { useAppDispatch, useAppStore } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import { FieldEditor } from '../fields/FieldEditor.tsx';
import { DialGroup } from './DialGroup.tsx';

/** A path or a route: its name, how it is travelled, and who follows it. */
function WayFields({ level, map, id }: { readonly level: Level; readonly map: Ways; readonly id: string }) {
  const store = useAppStore();
  const way = entry<Level['paths'][string] | Level['routes'][string]>(level[map], id);
  if (way === undefined) return null;
  const field = fieldAt(levelFields(), level, `/${map}/any`);
  const followers = inOrder(level.placements).filter(([, { travel }]) => map === 'paths' && travel?.path === id);
  const names = (map === 'paths' ? ['name', 'round'] : ['name']) as readonly ('name' | 'round')[];
  return (
    <>
      {field?.type === 'group' &&
        names.map((name) => (
          <FieldEditor
            key={name}
            field={field.fields[name] ?? field}
            value={(way as Level['paths'][string])[name]}
            label={name}
            level={level}
            onSet={(next) => setValue(store, [pointer([map, id, name])], `${way.name}: ${name}`, next)}
          />
        ))}
      {map === 'paths' && (
        <p className="mt-1.5 text-xs text-soft">
          A round takes {plainNumber(roundSeconds(way as Level['paths'][string]), 1)} s.{' '}
          {followers.length === 0
            ? 'Nothing follows it yet: choose a thing and set “follows” under its dials.'
            : `Followed by ${followers.map(([one]) => placementName(level, one)).join(', ')}.`}
        </p>
      )}
    </>
  );
}

/** The column of a spot: the start, a point, or a way-point with its path or route. */
export function SpotColumn({ level, spot }: { readonly level: Level; readonly spot: string }) {
  const store = useAppStore();
  const { map, id, index } = placeOfSpot(spot);
  const place = valueAt(level, spot) as (PlanSpot & { readonly pause?: number; readonly name?: string }) | undefined;
  if (place === undefined) return null;
  const way = map === 'paths' || map === 'routes' ? map : null;
  const field = fieldAt(levelFields(), level, '/points/any/name');
  const untilField = fieldAt(levelFields(), level, '/routes/any/wayPoints/0/until');
  return (
    <>
      <h2 className="text-base font-bold first-letter:uppercase">{spotName(level, spot)}</h2>
      {map === 'points' && field !== null && (
        <FieldEditor
          field={field}
          value={place.name}
          label="name"
          level={level}
          onSet={(next) => setValue(store, [`${spot}/name`], 'rename a point', next)}
        />
      )}
      {way !== null && <WayFields key={`${way} ${id}`} level={level} map={way} id={id} />}
      {way === 'routes' && untilField !== null && (
        <FieldEditor
          key={spot}
          field={untilField}
          value={(place as Level['routes'][string]['wayPoints'][number]).until}
          label="waits until"
          level={level}
          onSet={(next) => setValue(store, [`${spot}/until`], 'what a way-point waits for', next)}
        />
      )}
      <DialGroup specs={spotDials(level, spot, place)} level={level} />
      <div className="mt-4 flex flex-wrap gap-2">
        {way !== null && (
          <Button kind="quiet" onClick={() => addWayPoint(store, way, id, index)}>
            Add a way-point after
          </Button>
        )}
        {way === 'routes' && (
          <Button kind="quiet" onClick={() => walk(store, id)}>
            Walk it
          </Button>
        )}
        {map !== 'start' && (
          <Button kind="quiet" keys="Delete" onClick={() => removeSpot(store, spot)}>
            Delete {map === 'points' ? 'the point' : 'the way-point'}
          </Button>
        )}
        {way !== null && (
          <Button kind="quiet" onClick={() => removeWay(store, way, id)}>
            Delete the {way === 'paths' ? 'path' : 'route'}
          </Button>
        )}
      </div>
    </>
  );
}

/** The start, points, paths and routes, as a list that chooses like the Plan does. */
export function SpotList({ level }: { readonly level: Level }) {
  const dispatch = useAppDispatch();
  const spots = [
    '/start',
    ...inOrder(level.points).map(([id]) => pointer(['points', id])),
    ...inOrder(level.paths).map(([id]) => wayPointPath('paths', id, 0)),
    ...inOrder(level.routes).map(([id]) => wayPointPath('routes', id, 0)),
  ];
  return (
    <section aria-label="places">
      <h3 className="mt-3 border-b border-line pb-0.5 text-[11px] font-bold text-soft">places</h3>
      <div className="mt-1.5 flex flex-wrap gap-1">
        {spots.map((spot) => (
          <button
            key={spot}
            type="button"
            className="cursor-pointer rounded-sm border border-line bg-card px-1.5 text-xs hover:border-ink"
            onClick={() => dispatch(viewActions.selected({ spot }))}
          >
            {spotName(level, spot)}
          </button>
        ))}
      </div>
    </section>
  );
}
