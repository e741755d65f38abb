/** Imports go one way: app → features → (ui, server) → core; ui → core; core → nothing. */
const only = (name, from, to) => ({ name, severity: 'error', from: { path: from, pathNot: '\\.test\\.tsx?$' }, to: { path: to } });

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    only('core-imports-nothing-of-ours', '^src/core', '^src/(ui|server|features|app)'),
    // Schemas and the row splitter are the core's only libraries, each in one place.
    {
      name: 'core-has-no-libraries',
      severity: 'error',
      from: {
        path: '^src/core',
        pathNot: '(\\.test\\.ts$|^src/core/documents/|^src/core/read/layout\\.ts$|^src/core/strip/slip-table\\.ts$)',
      },
      to: { dependencyTypes: ['npm', 'npm-dev', 'core'] },
    },
    {
      name: 'core-libraries',
      severity: 'error',
      from: { path: '^src/core', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['npm', 'core'], pathNot: 'node_modules/(zod|papaparse|@types/papaparse)' },
    },
    only('ui-knows-the-core-only', '^src/ui', '^src/(server|features|app)'),
    only('server-knows-the-core-only', '^src/server', '^src/(ui|features|app)'),
    only('features-do-not-know-routes', '^src/features', '^src/app'),
    {
      name: 'pages-hand-over-to-features',
      severity: 'error',
      from: { path: '^src/app', pathNot: '^src/app/(api/|(\\(shop\\)/)?layout\\.tsx)' },
      to: { path: '^src/ui' },
    },
    {
      name: 'nothing-imports-scripts',
      severity: 'error',
      from: { path: '^src', pathNot: '\\.test\\.tsx?$' },
      to: { path: '^(scripts|e2e)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default', 'types'] },
  },
};
