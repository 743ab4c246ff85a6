import js from '@eslint/js';
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript';
import importX from 'eslint-plugin-import-x';
import reactHooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/** One way through the house: who may not import from where, and what to do instead. */
const zone = (target, from, message) => ({ target, from, message });
const core = 'core/src';
const inCore = (part, not) =>
  not.map((other) => zone(`${core}/${part}`, `${core}/${other}`, `core: ${part} must not know ${other}`));
/** In core nothing knows what comes after it. */
const upwards = [
  'time',
  'remarks',
  'model',
  'bins',
  'paths',
  'naming',
  'folders',
  'formats',
  'match',
  'state',
  'consolidate',
  'report',
  'health',
  'contract',
  'testing',
];
/** What the server's acts and views stand on. */
const floors = ['config', 'stores', 'events', 'queue', 'disk', 'media', 'made'];
/** What the server does, by what it is about; in each, `views.ts` and `…Views.ts` only look. */
const nouns = [
  'acceptance',
  'bins',
  'causes',
  'clips',
  'documents',
  'drives',
  'find',
  'folders',
  'forms',
  'handoffs',
  'health',
  'history',
  'jobs',
  'layouts',
  'links',
  'matching',
  'naming',
  'places',
  'projects',
  'pulls',
  'reading',
  'reports',
  'room',
  'settings',
];
const layers = [
  zone('core', 'server', 'core knows neither server nor web'),
  zone('core', 'web', 'core knows neither server nor web'),
  zone('server', 'web', 'the server does not know the web client'),
  zone('core', 'words', 'core gives codes; sentences are made by words'),
  zone('words', 'server', 'words knows neither server nor web'),
  zone('words', 'web', 'words knows neither server nor web'),
  zone('web', 'server', 'web meets the server only through core/contract'),
  ...upwards.flatMap((part, i) => inCore(part, upwards.slice(i + 1))),
  ...['match', 'state', 'consolidate', 'report'].flatMap((part) => inCore(part, ['formats'])),
  ...inCore('consolidate', ['match']),
  ...inCore('compare', ['formats', 'match', 'state', 'consolidate', 'report', 'contract', 'testing']),
  ...inCore('project', ['match', 'consolidate', 'report', 'testing']),
  ...floors.flatMap((floor) =>
    [...nouns, 'http', 'demo'].map((above) =>
      zone(`server/src/${floor}`, `server/src/${above}`, `${floor} is a floor below all that acts`),
    ),
  ),
  ...['disk', 'media'].flatMap((part) =>
    ['stores', 'queue', 'events', 'db'].map((other) =>
      zone(`server/src/${part}`, `server/src/${other}`, `${part} touches storage and knows nothing of what is kept`),
    ),
  ),
  ...['stores', 'queue'].map((other) =>
    zone('server/src/http', `server/src/${other}`, 'routes parse, call and answer; what is kept is asked by others'),
  ),
  ...[...nouns, 'demo', 'db'].map((part) =>
    zone(`server/src/${part}`, 'server/src/http', `${part} knows nothing of HTTP`),
  ),
  ...nouns
    .filter((noun) => noun !== 'jobs')
    .map((noun) => zone(`server/src/${noun}`, 'server/src/jobs', 'work is asked for by queue/, and carried by jobs/')),
  ...['queue', 'events', 'disk/writing.ts', 'history/act.ts'].map((doing) =>
    zone('server/src/*/*iews.ts', `server/src/${doing}`, 'a view looks; what changes things stands beside it'),
  ),
];

const nodeParts = [
  'assert',
  'buffer',
  'child_process',
  'crypto',
  'fs',
  'fs/promises',
  'http',
  'net',
  'os',
  'path',
  'process',
  'stream',
  'timers',
  'timers/promises',
  'url',
  'util',
  'worker_threads',
  'zlib',
];
const childProcess = { name: 'node:child_process', message: 'Other programs run only through media/fenced.ts.' };
const writers = [
  'appendFile',
  'copyFile',
  'cp',
  'link',
  'mkdir',
  'open',
  'rename',
  'rm',
  'rmdir',
  'symlink',
  'truncate',
  'unlink',
  'writeFile',
  'createWriteStream',
  'writeFileSync',
  'mkdirSync',
  'renameSync',
  'rmSync',
  'unlinkSync',
];
const openers = [
  'access',
  'lstat',
  'opendir',
  'openSync',
  'readFile',
  'readFileSync',
  'readdir',
  'readdirSync',
  'readlink',
  'realpath',
  'stat',
  'statfs',
  'createReadStream',
];
const files = (importNames, message) => ['node:fs', 'node:fs/promises'].map((name) => ({ name, importNames, message }));
const fileWrites = files(writers, 'Files are written only through disk/writing.ts.');
const fileOpens = files([...writers, ...openers], 'What users have is opened only through disk/held.ts.');
const sql = [
  {
    selector: ['TemplateElement[value.raw', 'Literal[value']
      .map(
        (node) =>
          `${node}=/^\\s*(select\\b.*\\bfrom\\b|insert into|update\\b.*\\bset\\b|delete from|(create|alter|drop) table)/is]`,
      )
      .join(', '),
    message: 'SQL stands only in server/src/stores and migrations.',
  },
  {
    selector:
      'CallExpression[callee.name=/^(db|trx|knex)$/], CallExpression[callee.property.name=/^(raw|from|into)$/][callee.object.name=/^(db|trx|knex)$/]',
    message: 'The database is asked only by server/src/stores.',
  },
];

export default tseslint.config(
  {
    ignores: [
      '**/node_modules/**',
      '**/dist/**',
      '.legame*/**',
      '**/__fixtures__/**',
      'playwright-report/**',
      'test-results/**',
    ],
  },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [...tseslint.configs.recommendedTypeChecked],
    languageOptions: {
      parserOptions: {
        project: [
          'core/tsconfig.json',
          'core/tsconfig.tests.json',
          'words/tsconfig.json',
          'server/tsconfig.json',
          'web/tsconfig.json',
          'e2e/tsconfig.json',
        ],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    plugins: { 'import-x': importX },
    settings: {
      'import-x/resolver-next': [
        createTypeScriptImportResolver({
          noWarnOnMultipleProjects: true,
          project: ['core', 'words', 'server', 'web', 'e2e'].map((p) => `${p}/tsconfig.json`),
        }),
      ],
    },
    rules: {
      'import-x/no-restricted-paths': ['error', { basePath: import.meta.dirname, zones: layers }],
      'max-lines': ['error', { max: 400, skipComments: true }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      // Rows of the database come in as any and are named by the stores that know them.
      '@typescript-eslint/no-unnecessary-type-assertion': 'off',
      '@typescript-eslint/no-unsafe-enum-comparison': 'off',
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      'no-console': 'error',
      eqeqeq: 'error',
    },
  },
  {
    // core is pure: no Node, no DOM (its tsconfig has neither), no clock, no chance.
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['node:*', ...nodeParts, 'express', 'knex', 'react', 'react-*'],
              message: 'core is pure computation.',
            },
          ],
        },
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'core has no chance in it.' },
        { object: 'Date', property: 'now', message: 'core has no clock.' },
      ],
      'no-restricted-syntax': [
        'error',
        { selector: "NewExpression[callee.name='Date']", message: 'core has no clock.' },
      ],
    },
  },
  {
    files: ['server/src/**/*.ts'],
    ignores: [
      '**/*.test.ts',
      'server/src/testing/**',
      'server/src/launch/**',
      'server/src/media/fenced.ts',
      'server/src/disk/**',
      'server/src/demo/**',
      'server/src/drives/folders.ts',
    ],
    rules: { 'no-restricted-imports': ['error', { paths: [childProcess, ...fileOpens] }] },
  },
  {
    files: ['server/src/disk/*.ts'],
    ignores: ['**/*.test.ts', 'server/src/disk/writing.ts', 'server/src/disk/held.ts', 'server/src/disk/own.ts'],
    rules: { 'no-restricted-imports': ['error', { paths: [childProcess, ...fileWrites] }] },
  },
  {
    files: ['server/src/**/*.ts'],
    ignores: [
      '**/*.test.ts',
      'server/src/testing/**',
      'server/src/launch/**',
      'server/src/stores/**',
      'server/src/db/**',
    ],
    rules: { 'no-restricted-syntax': ['error', ...sql] },
  },
  {
    files: ['server/src/events/*.ts', 'server/src/queue/*.ts', 'server/src/http/events.ts'],
    // Announcing and queueing are statements of the database itself, not queries of its tables.
    rules: { 'no-restricted-syntax': 'off' },
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: {
      ...reactHooks.configs.recommended.rules,
      'react-hooks/incompatible-library': 'off',
      'max-lines-per-function': ['error', { max: 120, skipBlankLines: true, skipComments: true }],
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
    },
  },
  // Lists of questions to the server, one after the other.
  { files: ['web/src/api/**', 'web/src/**/*.test.{ts,tsx}'], rules: { 'max-lines-per-function': 'off' } },
  { files: ['**/*.{js,mjs}'], languageOptions: { globals: globals.node } },
  { files: ['web/src/testing/**'], languageOptions: { globals: { ...globals.node, ...globals.browser } } },
  {
    files: ['**/*.test.{ts,tsx}', '**/testing/**', 'e2e/**', 'bench/**'],
    rules: {
      'import-x/no-restricted-paths': 'off',
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      'no-console': 'off',
      'max-lines': ['error', 400],
    },
  },
);
