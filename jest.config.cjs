const shared = {
  // Tests run in a context of their own, where every look at a global is a call: handed over with each module, they are as quick as
  // in a program (a picture is traced in an eighth of the time). Only what no test replaces.
  sandboxInjectedGlobals: [
    ...['Math', 'Number', 'Array', 'Object', 'String', 'Map', 'Set'],
    ...['Float64Array', 'Float32Array', 'Int32Array', 'Uint8Array', 'Uint8ClampedArray'],
  ],
  setupFilesAfterEnv: ['<rootDir>/test/patience.ts'],
  transform: {
    '^.+\\.(t|j)sx?$': [
      '@swc/jest',
      {
        jsc: { parser: { syntax: 'typescript', tsx: true }, transform: { react: { runtime: 'automatic' } }, target: 'es2022' },
        module: { type: 'commonjs' },
      },
    ],
  },
  moduleNameMapper: {
    '^fast-check$': '<rootDir>/test/fast-check.cjs',
    '^server-only$': '<rootDir>/test/empty.cjs',
    '\\.module\\.css$': '<rootDir>/test/css-module.cjs',
    '\\.css$': '<rootDir>/test/empty.cjs',
    '^@/(.*)$': '<rootDir>/src/$1',
    '^@ant-design/colors/es/(.*)$': '@ant-design/colors/lib/$1',
  },
  // These ship as ES modules only.
  transformIgnorePatterns: ['/node_modules/(?!(react-hotkeys-hook|nuqs)/)'],
  testPathIgnorePatterns: ['/node_modules/', '/.next/', '/e2e/'],
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/.local', '<rootDir>/dist'],
};

/** unit: code without a page or a database; dom: components; db: what a file is named for (`….db.test.ts`), on a real PostgreSQL (TEST_DATABASE_URL from scripts/test.mjs). */
module.exports = {
  projects: [
    {
      ...shared,
      displayName: 'unit',
      testEnvironment: 'node',
      testMatch: ['<rootDir>/{src,scripts}/**/*.test.ts'],
      testPathIgnorePatterns: [...shared.testPathIgnorePatterns, '\\.db\\.test\\.ts$'],
    },
    {
      ...shared,
      displayName: 'dom',
      testEnvironment: 'jsdom',
      testMatch: ['<rootDir>/src/**/*.test.tsx'],
      setupFilesAfterEnv: ['<rootDir>/test/patience.ts', '<rootDir>/test/dom-setup.ts'],
    },
    {
      ...shared,
      displayName: 'db',
      globalSetup: '<rootDir>/test/workers.mjs',
      testEnvironment: 'node',
      testMatch: ['<rootDir>/{src,scripts}/**/*.db.test.ts'],
    },
  ],
};
