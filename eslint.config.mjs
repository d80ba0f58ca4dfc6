import eslint from '@eslint/js';
import angular from 'angular-eslint';
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript';
import { importX } from 'eslint-plugin-import-x';
import tseslint from 'typescript-eslint';

/**
 * The rooms' dependency direction: web, server and e2e stand on contract, contract on core's types,
 * core on nothing. `forbid` turns "this room may not name that one" into lint errors.
 */
const room = (names, why) => ({
  group: names,
  message: `${why} See docs/architecture.md: dependencies point downward only.`,
});
const relativeInto = (rooms) => rooms.flatMap((name) => [`**/../${name}/**`, `**/../${name}`]);
const NODE_MODULES = ['fs', 'path', 'os', 'crypto', 'http', 'url', 'worker_threads'];
const forbid = (...patterns) => ({ 'no-restricted-imports': ['error', { patterns }] });
const forbidWithNode = (...patterns) => ({
  'no-restricted-imports': ['error', { patterns, paths: NODE_MODULES }],
});

/** The server's floors, from the top: a lower one knows nothing of those above it. See docs/architecture.md. */
const FLOORS = [
  ['main.ts'],
  ['http', 'demo'],
  ['report'],
  ['screens'],
  ['commands'],
  [
    'batch',
    'blade',
    'cycle',
    'fleet',
    'instrument',
    'intake',
    'people',
    'photo',
    'plan',
    'removal',
    'shop',
    'spec',
    'wear',
  ],
  ['db'],
];
const FLOOR_ZONES = FLOORS.map((floor, i) => ({
  target: floor.map((name) => `./server/src/${name}`),
  from: FLOORS.slice(0, i)
    .flat()
    .map((name) => `./server/src/${name}`),
  message: 'A lower floor of the server knows nothing of those above it. See docs/architecture.md.',
})).filter(({ from }) => from.length > 0);

/** Attributes that nobody reads or hears. */
const NOT_SAID = [
  'scope',
  'preserveAspectRatio',
  'vector-effect',
  'patternUnits',
  'd',
  'autocapitalize',
  'aria-describedby',
  'aria-live',
  'aria-haspopup',
  'y',
  'y1',
  'y2',
  'text-anchor',
  'x',
  'x1',
  'x2',
  'appearance',
  'subscriptSizing',
  'mode',
  'accept',
  'after',
  'inputmode',
  'loading',
  'matColumnDef',
  'transform',
  'capture',
  'aria-labelledby',
  'ariaCurrentWhenActive',
  'cdkDropListData',
  'phase',
  'fieldId',
  'of',
  'lengthAdjust',
  'floatLabel',
  'usual',
];
const NODE = ['node:*'];
const FRAMEWORKS = [
  '@angular/*',
  '!@angular/localize',
  'express',
  'sequelize',
  'sqlite3',
  'umzug',
  'zod',
  'rxjs',
  'd3*',
  'helmet',
];

/** What reads like a text. A TypeError or a RangeError speaks to whoever writes the code. */
const SAID = '/^[A-Z]\\w* [a-z]{2}|[a-z]{2} [a-z]{2,} [a-z]{2}/';
const MARK = 'Mark it: $localize`…`, so that it is said in every language.';
const UNMARKED = [
  {
    selector: `Literal[value=${SAID}]:not(Decorator Literal):not(NewExpression[callee.name=/^(Type|Range)Error$/] > Literal)`,
    message: MARK,
  },
  {
    selector: `TemplateLiteral:not(TaggedTemplateExpression > TemplateLiteral):not(Decorator TemplateLiteral) > TemplateElement[value.raw=${SAID}]`,
    message: MARK,
  },
];

/** Words put into a text that is said in every language are said in every language themselves. */
const INTO = "TaggedTemplateExpression[tag.name='$localize'] > TemplateLiteral >";
const WORD = '/[a-z]{2}/';
const WITHIN = [
  ...['ConditionalExpression', "LogicalExpression[operator='??']"].flatMap((choice) => [
    { selector: `${INTO} ${choice} > Literal.consequent[value=${WORD}]`, message: MARK },
    { selector: `${INTO} ${choice} > Literal.alternate[value=${WORD}]`, message: MARK },
    { selector: `${INTO} ${choice} > Literal.right[value=${WORD}]`, message: MARK },
    {
      selector: `${INTO} ${choice} > TemplateLiteral > TemplateElement[value.raw=${WORD}]`,
      message: MARK,
    },
  ]),
  {
    selector: `CallExpression[callee.property.name='join'] > Literal[value=/[a-z]{2} /]`,
    message: 'Say a list by `listed`, so that it is said in every language.',
  },
];

/** A word beside words that are marked, where either is said: it was forgotten. */
const SAYS = "TaggedTemplateExpression[tag.name='$localize']";
const BESIDE = [
  ...['consequent', 'alternate'].map((side) => ({
    selector: `ConditionalExpression:has(${SAYS}) > Literal.${side}[value=${WORD}]`,
    message: MARK,
  })),
  {
    selector: `Property[key.name=/^(words|head|heading|label)$/] > Literal.value[value=${WORD}]`,
    message: MARK,
  },
  ...['VariableDeclarator', 'PropertyDefinition'].map((named) => ({
    selector: `${named}:has(TSTypeReference[typeName.name="Record"]) > ObjectExpression:has(${SAYS}) > Property > Literal.value[value=${WORD}]`,
    message: MARK,
  })),
];

/** A colon right after a figure names it for translators; one that belongs to the text comes after such a name. */
const COLON = {
  selector:
    "TaggedTemplateExpression[tag.name='$localize'] > TemplateLiteral > TemplateElement[value.raw=/^:(?!\\w+:)/]",
  message: 'Name the figure before a colon: ${figure}:figure:: …',
};

export default tseslint.config(
  {
    ignores: ['**/node_modules', '**/dist', '**/spec-out', '**/.angular', 'data', '.stamps'],
  },
  eslint.configs.recommended,
  {
    files: ['**/*.mjs', '**/*.cjs'],
    languageOptions: {
      globals: {
        console: 'readonly',
        process: 'readonly',
        performance: 'readonly',
        AbortSignal: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        URL: 'readonly',
        Buffer: 'readonly',
        module: 'writable',
        require: 'readonly',
      },
    },
  },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.strict, ...tseslint.configs.stylistic],
    plugins: { 'import-x': importX },
    settings: {
      ...importX.flatConfigs.typescript.settings,
      'import-x/resolver-next': [
        createTypeScriptImportResolver({ noWarnOnMultipleProjects: true }),
      ],
    },
    rules: {
      // No file may need, by whatever way round, what needs it.
      'import-x/no-cycle': ['error', { ignoreExternal: true }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-extraneous-class': 'off',
      '@typescript-eslint/unified-signatures': 'off',
      eqeqeq: 'error',
      'no-console': 'error',
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: forbidWithNode(
      room(
        ['@tally-stone/*', ...relativeInto(['contract', 'server', 'web', 'e2e'])],
        'core stands alone.',
      ),
      room(
        [...NODE, ...FRAMEWORKS],
        'core is plain TypeScript without interface, Node or network.',
      ),
    ),
  },
  {
    files: ['contract/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [
            room(
              [
                '@tally-stone/server',
                '@tally-stone/web',
                ...relativeInto(['core', 'server', 'web', 'e2e']),
              ],
              'contract knows only core.',
            ),
            room(
              [...NODE, ...FRAMEWORKS.filter((name) => name !== 'zod')],
              'contract is schemas and types.',
            ),
          ],
        },
      ],
    },
  },
  {
    files: ['cycle/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: forbidWithNode(
      room(
        [
          '@tally-stone/server',
          '@tally-stone/web',
          ...relativeInto(['core', 'contract', 'server', 'web', 'e2e']),
        ],
        'cycle stands on contract and core.',
      ),
      room([...NODE, ...FRAMEWORKS], 'cycle is pure: the server and the browser run the same.'),
    ),
  },
  {
    files: ['server/src/**/*.ts'],
    rules: {
      ...forbid(
        room(
          [
            '@tally-stone/web',
            '@tally-stone/e2e',
            ...relativeInto(['core', 'contract', 'web', 'e2e']),
          ],
          'server stands on contract and core.',
        ),
        // Scales and shapes draw on paper too; they know of no page.
        room(
          ['@angular/*', '!@angular/localize', 'd3*', '!d3-scale', '!d3-shape'],
          'server has no interface code.',
        ),
      ),
    },
  },
  {
    files: ['server/src/**/*.ts'],
    ignores: ['**/*.spec.ts', 'server/src/testing/**'],
    rules: { 'import-x/no-restricted-paths': ['error', { zones: FLOOR_ZONES }] },
  },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      ...forbidWithNode(
        room(
          [
            '@tally-stone/server',
            '@tally-stone/e2e',
            ...relativeInto(['core', 'contract', 'cycle', 'server', 'e2e']),
          ],
          'web stands on contract and core.',
        ),
        room([...NODE, 'express', 'sequelize', 'sqlite3'], 'web runs in a browser.'),
      ),
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
      '@angular-eslint/component-selector': [
        'error',
        { type: 'element', prefix: 'ts', style: 'kebab-case' },
      ],
      '@angular-eslint/directive-selector': [
        'error',
        { type: 'attribute', prefix: 'ts', style: 'camelCase' },
      ],
    },
  },
  {
    files: ['web/src/app/**/*.ts', 'core/src/**/*.ts', 'cycle/src/**/*.ts'],
    // What a list's headings are known by, and places as they are stored, are not said.
    ignores: ['**/*.spec.ts', '**/testing/**', '**/list-fields.ts', '**/named.ts'],
    rules: { 'no-restricted-syntax': ['error', COLON, ...UNMARKED, ...WITHIN, ...BESIDE] },
  },
  {
    files: ['contract/src/**/*.ts', 'server/src/**/*.ts'],
    ignores: ['**/*.spec.ts', '**/openapi-examples.ts'],
    rules: { 'no-restricted-syntax': ['error', COLON, ...WITHIN, ...BESIDE] },
  },
  {
    files: ['web/src/app/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      // No text is left out of what is translated; `npm run texts` says which has no Spanish yet.
      '@angular-eslint/template/i18n': [
        'error',
        {
          checkId: false,
          checkText: true,
          checkAttributes: true,
          // Marks of units are the same in every language.
          boundTextAllowedPattern: '\\b(N|s|h|rpm|mm|min)\\b',
          checkDuplicateId: false,
          ignoreTags: ['kbd'],
          ignoreAttributes: NOT_SAID,
        },
      ],
    },
  },
  {
    files: ['e2e/**/*.ts'],
    rules: forbid(
      room(
        ['@tally-stone/server', '@tally-stone/web', ...relativeInto(['core', 'server', 'web'])],
        'e2e drives the built product from outside.',
      ),
    ),
  },
  {
    files: ['**/*.spec.ts', '**/src/testing/**/*.ts', 'e2e/**/*.ts'],
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-empty-function': 'off',
      'no-console': 'off',
    },
  },
  { files: ['server/src/main.ts', '**/bench/**'], rules: { 'no-console': 'off' } },
);
