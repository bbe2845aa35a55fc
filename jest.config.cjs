/** Unit tests: core, command line and server, each file named for what it tests. */
module.exports = {
  testMatch: ['<rootDir>/{core,cli,server,web}/**/*.test.ts'],
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  modulePathIgnorePatterns: ['/dist/'],
  // One less than there are cores is what it would take by itself: one, where there are two.
  maxWorkers: '100%',
  testEnvironment: 'node',
  setupFiles: ['<rootDir>/core/testing/seed.ts'],
  testEnvironmentOptions: { customExportConditions: ['source', 'node', 'require', 'default'] },
  transform: {
    '^.+\\.(tsx?|js)$': [
      '@swc/jest',
      { jsc: { target: 'es2023', parser: { syntax: 'typescript', tsx: true } }, module: { type: 'commonjs' } },
    ],
  },
  transformIgnorePatterns: ['/node_modules/(?!@dial/|@seriousme/|@noble/)'],
};
