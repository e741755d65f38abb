import { readdirSync } from 'node:fs';
import { join } from 'node:path';

/** Imports go one way: app → features → (ui, server) → core; ui → core; core → nothing. */
const only = (name, from, to) => ({ name, severity: 'error', from: { path: from, pathNot: '\\.test\\.tsx?$' }, to: { path: to } });

/**
 * The core's folders from the ground up: each knows those before it only. What is computed knows nothing of documents, what is
 * kept nothing of what is made of it.
 */
const CORE = [
  ...['numbers', 'units', 'shape', 'flow', 'air', 'engine', 'sizing', 'inference', 'waves'],
  ...['documents', 'read', 'runs', 'compare', 'logs', 'strip', 'fit', 'install'],
  ...['job', 'verdict', 'working', 'sums', 'export', 'picture', 'stand-ins'],
];

/** Which features a feature knows; one that is not here knows none, and a new acquaintance is a decision made in this table. */
const FEATURES = {
  air: ['job', 'thinking'],
  bench: ['thinking'],
  car: ['job'],
  customer: ['test', 'verdict'],
  fit: ['flange', 'job', 'thinking'],
  install: ['fit', 'job', 'offline'],
  job: ['history'],
  jobs: ['job', 'verdict'],
  pick: ['air', 'job', 'thinking'],
  shelf: ['flange', 'history', 'job', 'pick'],
  start: ['test'],
  test: ['air', 'history', 'job', 'offline', 'thinking'],
  verdict: ['air', 'job', 'test'],
};

const coreRules = CORE.map((folder, i) =>
  only(`core-${folder}-knows-what-is-below-it`, `^src/core/${folder}/`, `^src/core/(?!(${CORE.slice(0, i + 1).join('|')})/)[^/]+/`),
);
const featureRules = readdirSync(join(import.meta.dirname, 'src', 'features')).map((name) =>
  only(`feature-${name}`, `^src/features/${name}/`, `^src/features/(?!(${[name, ...(FEATURES[name] ?? [])].join('|')})/)[^/]+/`),
);
const unknown = readdirSync(join(import.meta.dirname, 'src', 'core'), { withFileTypes: true }).filter(
  (e) => e.isDirectory() && !CORE.includes(e.name),
);
if (unknown.length > 0) throw new Error(`No place in the core's order: ${unknown.map((e) => e.name).join(', ')}. See CORE in this file.`);

export default {
  forbidden: [
    ...coreRules,
    ...featureRules,
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
