export { cellAt, cellHolding, createMesh, type Box, type Mesh } from './mesh.ts';
export { findWay, type Way } from './way.ts';
