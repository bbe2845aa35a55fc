export { cellAt, cellHolding, createMesh, type Mesh } from './mesh.ts';
export { besideOf, surfacesOf, type Surface } from './surfaces.ts';
export { findWay, type Way } from './way.ts';
