/** How many random cases a property is tried on: as many as are usual for it, or as `DIAL_RUNS` says. */
export const runs = (usual: number): number => Number(process.env['DIAL_RUNS'] ?? usual);
