import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/** Which folders of the core a folder of the core may import from: always towards the ground. */
const CORE_LAYERS = {
  units: [],
  acoustics: ['units'],
  arrays: ['units', 'acoustics'],
  localisation: ['units', 'acoustics', 'arrays'],
  session: ['units', 'acoustics', 'arrays'],
  ensembles: ['units', 'session'],
  kit: ['units', 'acoustics', 'arrays', 'session'],
  analysis: ['units', 'acoustics', 'arrays', 'localisation', 'session', 'ensembles', 'kit'],
  demo: ['units', 'session', 'ensembles', 'kit'],
  planning: ['units', 'acoustics', 'arrays', 'localisation', 'session', 'kit', 'analysis'],
  rig: ['units', 'acoustics', 'arrays', 'session', 'kit', 'analysis', 'planning'],
};

const OUTSIDE_CORE = [
  '**/app/**',
  '**/server/**',
  '**/cli/**',
  '**/paper/**',
  '**/e2e/**',
  '**/scripts/**',
];
const NOT_PURE = ['node:*', 'react', 'react-*', 'react-dom/*', 'zustand', 'fastify', 'localforage'];

function layerRule(folder, allowed) {
  const others = Object.keys(CORE_LAYERS).filter(
    (name) => name !== folder && !allowed.includes(name),
  );
  return {
    files: [`core/${folder}/**/*.ts`],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: OUTSIDE_CORE, message: 'The core imports nothing from outside the core.' },
            { group: NOT_PURE, message: 'The core is pure TypeScript.' },
            ...(others.length === 0
              ? []
              : [
                  {
                    group: others.flatMap((name) => [
                      `../${name}`,
                      `../${name}/**`,
                      `../../${name}/**`,
                    ]),
                    message: `core/${folder} may import only from: ${allowed.join(', ') || 'itself'}.`,
                  },
                ]),
          ],
        },
      ],
    },
  };
}

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'test-results', 'playwright-report', 'app/public'] },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [...tseslint.configs.recommendedTypeChecked],
    languageOptions: { parserOptions: { projectService: true } },
    plugins: { 'react-hooks': reactHooks },
    rules: {
      ...reactHooks.configs.recommended.rules,
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' },
      ],
      '@typescript-eslint/explicit-module-boundary-types': 'off',
      '@typescript-eslint/no-confusing-void-expression': 'off',
      'max-lines': ['error', { max: 400, skipBlankLines: true }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-console': 'error',
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts', 'core/test-setup.ts'],
    rules: { '@typescript-eslint/explicit-module-boundary-types': 'error' },
  },
  {
    // Schema builders and rules take their types from what they build.
    files: ['core/session/**/*.ts', 'core/analysis/findings/*.ts'],
    rules: { '@typescript-eslint/explicit-module-boundary-types': 'off' },
  },
  ...Object.entries(CORE_LAYERS).map(([folder, allowed]) => layerRule(folder, allowed)),
  {
    files: ['app/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/server/**', '**/cli/**', 'node:*'],
              message: 'The page imports only the core and paper.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['server/**/*.ts', 'cli/**/*.ts', 'paper/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ group: ['**/app/**'], message: 'Only core and paper may be shared.' }] },
      ],
    },
  },
  { files: ['server/**/*.test.ts'], rules: { 'no-restricted-imports': 'off' } },
  {
    files: ['**/*.{js,mjs}'],
    // Scripts hand functions to the browser that they drive.
    languageOptions: { globals: { ...globals.node, ...globals.browser } },
  },
);
