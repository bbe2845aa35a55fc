import { entry, type Level } from '@dial/core/level';
import { openFindings, shownFindings } from '../state/slices/findings.ts';
import { useAppSelector } from '../state/store.ts';
import type { PlanScale } from '../drawing/plan/planScale.ts';

const RING = 15;

/** Where what is found lies, while the list of findings is shown: a mark at each place; of the one that is pointed at with a ring, and its solids and paths. */
export function PlanFindings({ level, scale }: { readonly level: Level; readonly scale: PlanScale }) {
  const open = useAppSelector(openFindings);
  const byCrowd = useAppSelector(shownFindings);
  const all = [...open, ...byCrowd.filter(({ meant }) => meant === null)];
  const found = useAppSelector((state) => state.findings.found);
  const pointed = useAppSelector((state) => state.findings.pointed);
  const shown = useAppSelector((state) => state.view.evidence === 'findings');
  if (!shown || found === null) return null;
  const one = [...found.findings, ...byCrowd].find(({ id }) => id === pointed);
  const placesOf = ({ where }: (typeof all)[number]): { readonly x: number; readonly y: number }[] => [
    ...where.placements.flatMap((id) => entry(level.placements, id) ?? []),
    ...where.points.flatMap((id) => entry(level.points, id) ?? []),
  ];
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden fill="none" stroke="var(--ink)">
      {all.flatMap((finding) =>
        placesOf(finding).map(({ x, y }, at) => (
          <path
            key={`${finding.id} ${String(at)}`}
            d={`M${String(scale.x(x) + 7)} ${String(scale.y(y) - 19)}h9v7h-5l-4 4z`}
            fill="var(--card)"
            strokeWidth="1.4"
          />
        )),
      )}
      {one !== undefined && (
        <g stroke="var(--needle)" strokeWidth="2.4">
          {placesOf(one).map(({ x, y }, at) => (
            <circle key={at} cx={scale.x(x)} cy={scale.y(y)} r={RING} />
          ))}
          {one.where.solids.flatMap((id) => {
            const solid = entry(level.solids, id);
            if (solid === undefined) return [];
            const { x, y, width, height } = solid;
            const size = scale.pixelsPerUnit;
            return [<rect key={id} x={scale.x(x)} y={scale.y(y + height)} width={width * size} height={height * size} />];
          })}
          {one.where.paths.flatMap((id) => {
            const way = entry(level.paths, id)?.wayPoints ?? [];
            return [<polyline key={id} points={way.map(({ x, y }) => `${String(scale.x(x))},${String(scale.y(y))}`).join(' ')} />];
          })}
        </g>
      )}
    </svg>
  );
}
