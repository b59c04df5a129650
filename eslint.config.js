import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import { readdirSync, readFileSync } from 'node:fs';
import tseslint from 'typescript-eslint';

/** What a part that reads recordings stands on. */
const RECORDED = [
  'units',
  'acoustics',
  'session',
  'arrays',
  'localisation',
  'audio',
  'channels',
  'prepare',
  'hall',
  'analysis',
];
/** Which folders of the core a folder of the core may import from: always towards the ground. */
const CORE_LAYERS = {
  units: [],
  acoustics: ['units'],
  arrays: ['units', 'acoustics'],
  localisation: ['units', 'acoustics', 'arrays'],
  session: ['units', 'acoustics', 'arrays'],
  ensembles: ['units', 'session'],
  channels: ['arrays', 'session'],
  hall: ['units', 'acoustics', 'session'],
  prepare: ['units', 'acoustics', 'localisation', 'session', 'hall'],
  kit: ['units', 'acoustics', 'arrays', 'session'],
  audio: ['units'],
  'audio/listen': [
    'units',
    'acoustics',
    'arrays',
    'localisation',
    'session',
    'prepare',
    'hall',
    'analysis',
    'audio',
  ],
  'audio/render': [
    'hall',
    'units',
    'acoustics',
    'arrays',
    'session',
    'channels',
    'ensembles',
    'analysis',
    'audio',
  ],
  recorded: RECORDED,
  verdict: [...RECORDED, 'recorded', 'rig'],
  photo: ['units', 'session'],
  soundcheck: [
    ...['units', 'acoustics', 'arrays', 'localisation', 'session', 'ensembles', 'prepare', 'hall'],
    ...['analysis', 'difference', 'planning'],
  ],
  recall: [
    ...[
      'units',
      'acoustics',
      'arrays',
      'localisation',
      'session',
      'ensembles',
      'prepare',
      'hall',
      'audio',
    ],
    ...['analysis', 'mechanics', 'recorded', 'difference', 'soundcheck', 'rig'],
  ],
  drill: [
    ...[
      'units',
      'acoustics',
      'arrays',
      'localisation',
      'session',
      'ensembles',
      'prepare',
      'hall',
      'audio',
    ],
    ...['channels', 'analysis', 'recorded', 'planning', 'soundcheck'],
  ],
  stage: ['units', 'arrays', 'session', 'ensembles'],
  difference: ['units', 'acoustics', 'arrays', 'session'],
  claps: [...RECORDED, 'recorded', 'rig', 'verdict'],
  mechanics: ['units', 'arrays', 'session', 'ensembles', 'prepare', 'hall'],
  analysis: [
    'units',
    'acoustics',
    'arrays',
    'localisation',
    'session',
    'ensembles',
    'kit',
    'channels',
    'prepare',
    'hall',
    'mechanics',
  ],
  demo: ['units', 'session', 'ensembles', 'kit'],
  fixtures: ['units', 'arrays', 'localisation', 'session'],
  planning: [
    'units',
    'acoustics',
    'arrays',
    'localisation',
    'session',
    'ensembles',
    'kit',
    'channels',
    'prepare',
    'hall',
    'analysis',
  ],
  rig: [
    'mechanics',
    'units',
    'acoustics',
    'arrays',
    'localisation',
    'session',
    'ensembles',
    'kit',
    'channels',
    'prepare',
    'hall',
    'analysis',
    'planning',
  ],
};

/** The same for the page: what is looked at, the document, its keeping, figures, parts, stations. */
const SHARED = [
  'view',
  'document',
  'contents',
  'keeping',
  'figures',
  'workers',
  'audio',
  'parts',
  'charts',
];
/** The stations, as their table names their folders. */
function stationFolders() {
  const table = readFileSync(new URL('app/stations.ts', import.meta.url), 'utf8');
  return [...table.matchAll(/path: '([\w-]+)'/g)].map(([, name]) => name);
}
const APP_LAYERS = {
  public: [],
  view: [],
  contents: [],
  workers: ['contents'],
  document: ['view'],
  keeping: ['view', 'document', 'contents', 'workers'],
  figures: ['view', 'document', 'workers'],
  audio: ['view', 'document', 'keeping', 'figures', 'workers'],
  parts: ['view', 'document', 'keeping', 'figures'],
  charts: ['view', 'document', 'keeping', 'figures', 'parts'],
  'image-line': SHARED,
  // A station that needs nothing else has no line here.
  ...Object.fromEntries(stationFolders().map((name) => [name, [...SHARED, 'image-line']])),
  floor: [...SHARED, 'image-line', 'shell'],
  array: [...SHARED, 'image-line', 'floor'],
  checks: [...SHARED, 'image-line', 'shell'],
  soundcheck: [...SHARED, 'image-line', 'bench'],
  recall: [...SHARED, 'image-line', 'soundcheck'],
  rig: [...SHARED, 'image-line', 'stage'],
  sessions: [...SHARED, 'shell'],
  stage: SHARED,
  shell: [...SHARED, 'image-line', 'stage'],
};

/** A folder without a rule has no place yet: it gets one here first. */
function refuseUnknown(ring, layers) {
  const here = new URL(`${ring}/`, import.meta.url);
  for (const entry of readdirSync(here, { withFileTypes: true })) {
    if (entry.isDirectory() && !(entry.name in layers)) {
      throw new Error(`${ring}/${entry.name} has no rule in eslint.config.js: say what it may use`);
    }
  }
}
refuseUnknown('core', CORE_LAYERS);
refuseUnknown('app', APP_LAYERS);

const OUTSIDE_CORE = [
  '**/app/**',
  '**/server/**',
  '**/cli/**',
  '**/paper/**',
  '**/fuzz/**',
  '**/e2e/**',
  '**/scripts/**',
];
const NOT_PURE = ['node:*', 'react', 'react-*', 'react-dom/*', 'zustand', 'fastify', 'localforage'];
const OUTSIDE_APP = ['**/server/**', '**/cli/**', '**/fuzz/**', '**/e2e/**', 'node:*'];

/** Folders beside or above one that it may not use, as a pattern of import paths. */
function foreign(layers, folder, allowed) {
  const refused = Object.keys(layers).filter(
    (name) =>
      name !== folder &&
      !name.includes('/') &&
      !allowed.includes(name) &&
      !folder.startsWith(`${name}/`),
  );
  // A folder inside a refused one may be allowed by itself.
  const inner = allowed.filter((name) => name.includes('/'));
  const but = inner.length === 0 ? '' : `(?!${inner.join('|')})`;
  return refused.length === 0 ? null : `^(\\.\\./)+${but}(${refused.join('|')})(/|$)`;
}

function layerRule(ring, layers, folder, allowed, always) {
  const regex = foreign(layers, folder, allowed);
  const message = `${ring}/${folder} may import only from: ${allowed.join(', ') || 'itself'}.`;
  return {
    files: [`${ring}/${folder}/**/*.{ts,tsx}`],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [...always, ...(regex === null ? [] : [{ regex, message }])] },
      ],
    },
  };
}

const CORE_ALWAYS = [
  { group: OUTSIDE_CORE, message: 'The core imports nothing from outside the core.' },
  { group: NOT_PURE, message: 'The core is pure TypeScript.' },
];
const APP_ALWAYS = [{ group: OUTSIDE_APP, message: 'The page imports only the core and paper.' }];

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'test-results', 'playwright-report', 'app/public'] },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [...tseslint.configs.recommendedTypeChecked],
    languageOptions: { parserOptions: { project: './tsconfig.json' } },
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
    files: ['{app,cli,core,paper,server}/**/*.{ts,tsx}'],
    // Tables of made-up players are as long as their ensembles.
    ignores: ['**/*.test.{ts,tsx}', 'core/demo/**', 'core/fixtures/**', 'app/fixtures.ts'],
    rules: { 'max-lines-per-function': ['error', { max: 120 }] },
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
  ...Object.entries(CORE_LAYERS).map(([folder, allowed]) =>
    layerRule('core', CORE_LAYERS, folder, allowed, CORE_ALWAYS),
  ),
  ...Object.entries(APP_LAYERS).map(([folder, allowed]) =>
    layerRule('app', APP_LAYERS, folder, allowed, APP_ALWAYS),
  ),
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
