import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Arrows between floors point down only: core knows nobody, server and web know only the core. */
const floor = (name, forbidden) => ({
  files: [`${name}/**/*.{ts,tsx}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: forbidden.map((other) => ({
          group: [`@zawn/${other}`, `@zawn/${other}/**`, `**/${other}/src/**`, `**/${other}/dist/**`],
          message: `${name} must not import from ${other}.`,
        })),
      },
    ],
  },
});

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
    files: ['server/**/*.test.ts', 'server/src/testing.ts'],
    rules: { '@typescript-eslint/no-unsafe-assignment': 'off' },
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { ...hooks.configs.recommended.rules, 'react-hooks/incompatible-library': 'off' },
  },
  floor('core', ['server', 'web', 'e2e', 'bench']),
  floor('server', ['web', 'e2e', 'bench']),
  floor('web', ['server', 'e2e', 'bench']),
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
