import next from '@next/eslint-plugin-next';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** Rules that look at types read the whole program first, half a minute: what is run between two thoughts goes without (scripts/check.mjs). */
const quick = process.env['VANNER_LINT'] === 'quick';

export default ts.config(
  { ignores: ['public/**', 'node_modules', '.next', '.local', 'dist', 'next-env.d.ts'] },
  ...ts.configs.recommended,
  { files: ['scripts/**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  {
    files: ['src/**/*.{ts,tsx}', 'scripts/**/*.ts', 'e2e/**/*.ts'],
    languageOptions: { parserOptions: { projectService: !quick } },
    rules: {
      ...(!quick && {
        '@typescript-eslint/no-floating-promises': 'error',
        '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
        '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      }),
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
    },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { '@next/next': next, 'react-hooks': hooks },
    rules: {
      ...next.configs.recommended.rules,
      ...next.configs['core-web-vitals'].rules,
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      'max-lines': ['error', { max: 420, skipBlankLines: true }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    // A function is read at once, and has no more ways through it than a person keeps in mind. Tests are lists of cases, the demo is data.
    files: ['src/**/*.{ts,tsx}', 'scripts/**/*.{ts,mjs}'],
    ignores: ['**/*.test.{ts,tsx}', 'src/server/demo/**'],
    rules: { 'max-lines-per-function': ['error', { max: 120 }], complexity: ['error', 30] },
  },
  {
    // The core is pure: no clock, no chance, nothing of a browser or a server.
    files: ['src/core/**/*.ts'],
    ignores: ['src/core/**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'fetch',
        'process',
        'localStorage',
        'performance',
        'setTimeout',
        'setInterval',
        'crypto',
      ],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }, { object: 'Date', property: 'now' }],
      'no-restricted-syntax': ['error', { selector: "NewExpression[callee.name='Date']", message: 'The core has no clock.' }],
    },
  },
  {
    files: ['src/**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "Property[key.name='timeout']",
          message: 'test/dom-setup.ts says how long is waited: shorter fails on a busy machine.',
        },
      ],
    },
  },
);
