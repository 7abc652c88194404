import { availableParallelism } from 'node:os';

const swc = (jsx) => [
  '@swc/jest',
  {
    jsc: {
      target: 'es2022',
      parser: { syntax: 'typescript', decorators: true, tsx: jsx },
      transform: {
        legacyDecorator: true,
        decoratorMetadata: true,
        react: { runtime: 'automatic' },
      },
    },
    module: { type: 'commonjs' },
  },
];

/** One Jest project a floor; the core is read from its sources so that a unit run needs no build. */
const floor = (name, more = {}) => ({
  displayName: name,
  rootDir: name,
  roots: ['<rootDir>/src'],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  transform: { '^.+\\.ts$': swc(false), '^.+\\.tsx$': swc(true) },
  moduleNameMapper: {
    '^@zawn/core$': '<rootDir>/../core/src',
    '^@zawn/core/(.*)$': '<rootDir>/../core/src/$1',
  },
  testEnvironment: 'node',
  ...more,
});

/** What is written in the reader's own locale is written in this one. */
const asInBritain = { globals: { navigator: { language: 'en-GB' } } };

/** A demo company takes seconds to make; each test begins with a copy of the one made first. */
const withDemos = {
  globalSetup: '<rootDir>/../scripts/jest/shared-demos.mjs',
  globalTeardown: '<rootDir>/../scripts/jest/forget-demos.mjs',
};

export default {
  // Two at least: on two cores one alone would leave the other idle.
  maxWorkers: Math.max(2, availableParallelism() - 1),
  // On a machine shared with others a test may take several times as long as usual; how long people wait is held by
  // bounds of its own where it matters.
  testTimeout: 240_000,
  projects: [
    floor('core'),
    floor('server', withDemos),
    floor('web', asInBritain),
    floor('e2e', { ...withDemos, roots: ['<rootDir>/src/stories'] }),
    // Stories that measure how long others wait: nothing else runs beside them.
    floor('e2e', { ...withDemos, displayName: 'alone', roots: ['<rootDir>/src/alone'] }),
  ],
};
