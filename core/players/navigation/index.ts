export { cellAt, cellHolding, createMesh, type Mesh } from './mesh.ts';
export { besideOf, clearOverhead, surfacesOf, type Surface } from './surfaces.ts';
export { comesToStation, isAtStation, meanWait, rideSteps, stationsOf, type Station } from './stations.ts';
export { cellsFrom, findWay, type Way } from './way.ts';
