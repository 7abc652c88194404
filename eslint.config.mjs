import { readFileSync } from 'node:fs';
import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const noRoles = {
  selector: ':not(TSLiteralType) > Literal[value=/^(rep|manager|operations)$/]',
  message: 'No role is named outside the policy. Ask `Policy.may`.',
};

const noSql = [
  'Literal[value=/^\\s*(SELECT|INSERT|UPDATE|DELETE|WITH|CREATE) /]',
  'TemplateElement[value.raw=/^\\s*(SELECT|INSERT|UPDATE|DELETE|WITH|CREATE) /]',
].map((selector) => ({
  selector,
  message: 'SQL stands in platform/database and in the compiler of questions. Use the query builder.',
}));

const forbidden = (group, message) => ({ group, message });

/** Arrows between floors point down only: core knows nobody, server and web know only the core. */
const otherFloors = (name, others) =>
  others.map((other) =>
    forbidden(
      [`@zawn/${other}`, `@zawn/${other}/**`, `**/${other}/src/**`, `**/${other}/dist/**`],
      `${name} must not import from ${other}.`,
    ),
  );

/** Within a floor they point down as well: features know the kernel, the kernel knows the platform. */
const wings = {
  platform: forbidden(
    ['**/kernel/**', '**/features/**', '**/features'],
    'The platform knows no kernel and no feature.',
  ),
  kernel: forbidden(
    ['**/features/**', '**/features'],
    'The kernel knows no feature: features bring along what it needs.',
  ),
};

/** The names of all objects, each of which has a table. */
const objects = [
  ...readFileSync(new URL('core/src/kernel/catalogue/objects.ts', import.meta.url), 'utf8').matchAll(
    /^ {2}(\w+),$/gm,
  ),
].map(([, name]) => name);

/** Records are written by units alone, so that no write escapes its checks, the log and undo. */
const noWrites = [
  `CallExpression[callee.object.name!='unit'][callee.property.name=/^(insert|update|upsert|delete|save|remove)$/] > Literal.arguments[value=/^(${objects.join('|')})$/]:first-child`,
  "CallExpression[callee.object.name='dialect'][callee.property.name=/^(insertRow|update|updateMany)$/]",
].map((selector) => ({
  selector,
  message: 'Records are written by a `Unit`, derived values by `writeDerived`.',
}));

/** The one list in the kernel that names what features describe. */
/** The lists that each feature's objects and acts join: the kernel knows of features there alone. */
const LISTS = ['core/src/kernel/catalogue/objects.ts', 'core/src/kernel/policy/acts.ts'];

const floor = (name, others) => [
  {
    files: [`${name}/**/*.{ts,tsx}`],
    rules: { 'no-restricted-imports': ['error', { patterns: otherFloors(name, others) }] },
  },
  ...Object.entries(wings).map(([wing, pattern]) => ({
    files: [`${name}/src/${wing}/**/*.{ts,tsx}`],
    // Tests may look at things from above.
    ignores: ['**/*.test.{ts,tsx}', ...LISTS],
    rules: { 'no-restricted-imports': ['error', { patterns: [...otherFloors(name, others), pattern] }] },
  })),
];

export default tseslint.config(
  { ignores: ['**/dist/**', 'server/bundle/**', '**/node_modules/**', '.cache/**', 'data/**'] },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [...tseslint.configs.recommendedTypeChecked],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-explicit-any': 'error',
      // `{ where: _where, ...rest }` is how a part is left out of a value.
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    // Nest reads constructor parameter types at run time, so those imports must stay values.
    files: ['server/**/*.ts'],
    rules: { '@typescript-eslint/consistent-type-imports': 'off' },
  },
  {
    // supertest types every body as any; each test says what it takes it for.
    files: ['server/**/*.test.ts', 'server/src/testing.ts', 'server/src/permissions/**'],
    rules: { '@typescript-eslint/no-unsafe-assignment': 'off' },
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { ...hooks.configs.recommended.rules, 'react-hooks/incompatible-library': 'off' },
  },
  ...floor('core', ['server', 'web', 'e2e', 'bench']),
  ...floor('server', ['web', 'e2e', 'bench']),
  ...floor('web', ['server', 'e2e', 'bench']),
  {
    // What somebody may do is asked of the policy, whoever they are.
    files: ['core/src/**/*.ts', 'server/src/**/*.ts', 'web/src/**/*.{ts,tsx}'],
    ignores: [
      '**/*.test.{ts,tsx}',
      'core/src/kernel/policy/ready-role*.ts',
      'server/src/platform/database/migrations/**',
      'server/src/demo/**',
      'server/src/permissions/**',
    ],
    rules: {
      'no-restricted-syntax': ['error', noRoles],
    },
  },
  {
    // One engine's driver and its SQL stand in one place.
    files: ['server/src/**/*.ts'],
    ignores: ['server/src/platform/database/**', '**/*.test.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        { paths: [{ name: 'better-sqlite3', message: 'The driver is known in platform/database only.' }] },
      ],
    },
  },
  {
    // What is fetched late waits in a place of its own: otherwise it takes away what stands around it.
    files: ['web/src/{kernel,features}/**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        { paths: [{ name: 'react', importNames: ['lazy'], message: 'Use lazyPart.' }] },
      ],
    },
  },
  {
    files: ['server/src/{kernel,features,test-feature}/**/*.ts'],
    ignores: ['server/src/kernel/questions/**', '**/*.test.ts'],
    rules: { 'no-restricted-syntax': ['error', noRoles, ...noSql, ...noWrites] },
  },
  {
    files: ['server/src/kernel/records/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-syntax': ['error', noRoles, ...noSql] },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        setTimeout: 'readonly',
        fetch: 'readonly',
      },
    },
  },
);
