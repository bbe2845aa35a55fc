/**
 * Imports point one way: web, server, cli → core; within core, and within a folder that has rooms, from later rooms to earlier ones only.
 * Folders are listed from the disk, so that a new one cannot be forgotten: one that is not in its order is an error.
 */
const { readdirSync } = require('node:fs');

const NOT_ROOMS = ['dist', 'node_modules', 'testing', 'public'];
const roomsIn = (folder) =>
  readdirSync(`${__dirname}/${folder}`, { withFileTypes: true })
    .filter((one) => one.isDirectory() && !NOT_ROOMS.includes(one.name))
    .map(({ name }) => name);

/** Rules that let each room import only those before it. `own` stands for the files of the folder itself, outside of any room. */
function inOrder(folder, order) {
  const there = [...roomsIn(folder)].sort().join();
  const listed = order.filter((room) => room !== 'own').sort();
  if (there !== listed.join()) throw new Error(`${folder} has the rooms ${there}; .dependency-cruiser.cjs orders ${listed.join()}`);
  return before(folder, order);
}

/** Rules that let each of some rooms of a folder import only those before it. */
function before(folder, order) {
  // The slices of the state are typed by what works on them.
  const types = folder === 'web/state' ? { dependencyTypesNot: ['type-only'] } : {};
  const path = (room) => (room === 'own' ? `^${folder}/[^/]+$` : `^${folder}/${room}/`);
  return order.slice(0, -1).map((room, index) => ({
    name: `${folder.replaceAll('/', '-')}-${room}-imports-backwards-only`,
    severity: 'error',
    from: { path: path(room), pathNot: `\\.test\\.ts$|^${folder}/index\\.ts$` },
    to: { path: order.slice(index + 1).map(path), pathNot: `^${folder}/index\\.ts$`, ...types },
  }));
}

/** What the features of web stand on: what is drawn and pressed, and what is known. Neither imports the other. */
const SHOWN = ['drawing', 'controls', 'charts', 'fields'];
const features = roomsIn('web').filter((folder) => !['browser', 'state', 'app', ...SHOWN].includes(folder));
const ABOVE = ['app', ...features].join('|');

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, dependencyTypesNot: ['type-only'] } },
    { name: 'core-alone', severity: 'error', from: { path: '^core/' }, to: { path: '^(web|server|cli|bench)/' } },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$|/testing/' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'testing-is-for-tests',
      severity: 'error',
      from: { path: '^(core|web|server|cli)/', pathNot: '\\.test\\.ts$|/testing/' },
      to: { path: '/testing/' },
    },
    ...inOrder('core', ['level', 'geometry', 'session', 'players', 'studies', 'formats', 'findings', 'api']),
    ...inOrder('core/level', ['document', 'values', 'reading', 'figures', 'beginnings', 'own']),
    ...inOrder('core/session', ['compile', 'state', 'contact', 'rules', 'motion', 'own', 'explain']),
    ...inOrder('core/players', ['navigation', 'own', 'personas', 'routes']),
    {
      name: 'one-program-each',
      severity: 'error',
      from: { path: '^(web|server|cli|bench)/' },
      to: { path: '^(web|server|cli|bench)/', pathNot: '^$1/' },
    },
    {
      name: 'features-apart',
      severity: 'error',
      from: { path: `^web/(${features.join('|')})/` },
      to: { path: `^web/(${ABOVE})/`, pathNot: '^web/$1/' },
    },
    {
      name: 'shown-below-state',
      severity: 'error',
      from: { path: `^web/(${SHOWN.join('|')})/`, pathNot: '\\.test\\.ts$' },
      to: { path: `^web/(state|${ABOVE})/` },
    },
    {
      name: 'state-below-features',
      severity: 'error',
      from: { path: '^web/state/' },
      to: { path: `^web/(${SHOWN.join('|')}|${ABOVE})/` },
    },
    ...before('web', SHOWN),
    ...inOrder('web/state', ['server', 'slices', 'own', 'view', 'document', 'sync', 'simulation']),
    ...inOrder('web/drawing', ['own', 'plan', 'lanes']),
    ...inOrder('web/controls', ['hooks', 'own', 'tape']),
    ...inOrder('web/plan', ['tools', 'own']),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(/dist/|\\.d\\.ts$)' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['source', 'import', 'require', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.json'],
    },
  },
};
