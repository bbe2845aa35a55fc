/** Imports point one way: web, server, cli → core; within core from later folders to earlier ones only. */
const order = ['level', 'geometry', 'session', 'players', 'studies', 'findings', 'formats', 'api'];
const features = ['levels', 'tray', 'plan', 'strip', 'dials', 'versions', 'files', 'sheet', 'ledger', 'play'];

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
    ...order.map((folder, index) => ({
      name: `core-${folder}-imports-backwards-only`,
      severity: 'error',
      from: { path: `^core/${folder}/`, pathNot: '\\.test\\.ts$' },
      to: { path: `^core/(${[...order.slice(index + 1), 'none'].join('|')})/` },
    })),
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
      to: { path: `^web/(${features.join('|')}|app)/`, pathNot: '^web/$1/' },
    },
    { name: 'ui-below-state', severity: 'error', from: { path: '^web/ui/' }, to: { path: '^web/(state|app|' + features.join('|') + ')/' } },
    {
      name: 'state-below-features',
      severity: 'error',
      from: { path: '^web/state/' },
      to: { path: '^web/(ui|app|' + features.join('|') + ')/' },
    },
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
