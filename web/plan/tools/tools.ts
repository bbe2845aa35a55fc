import type { Ways } from '../../state/document/spots.ts';
import type { PlanTool } from '../../state/slices/view.ts';
import { measureTool } from './measure.ts';
import { placeTool } from './place.ts';
import { pointTool } from './point.ts';
import { selectTool } from './select.ts';
import { oneWayTool, solidTool } from './solid.ts';
import type { Tool } from './tool.ts';
import { pathTool, routeTool } from './way.ts';

/** The tools of the Plan, in the order in which they are shown. */
export const TOOLS: Readonly<Record<PlanTool, Tool>> = {
  select: selectTool,
  place: placeTool,
  solid: solidTool,
  'one-way': oneWayTool,
  point: pointTool,
  path: pathTool,
  route: routeTool,
  measure: measureTool,
};

/** What a tool draws way-points of; null where it draws none. */
export const wayOf = (tool: PlanTool): Ways | null => (tool === 'path' ? 'paths' : tool === 'route' ? 'routes' : null);
