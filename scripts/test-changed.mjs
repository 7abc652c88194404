import { spawnSync } from 'node:child_process';
import { install, options, root, tool } from './steps.mjs';

/**
 * Checks what a change touches: types of everything, lint of the files changed since the last commit, or in it when
 * nothing was, and the tests that import them.
 */

options([]);
install();
process.chdir(root);

const since =
  ['HEAD', 'HEAD~1'].map((commit) => changedSince(commit)).find((files) => files.length > 0) ?? [];

function changedSince(commit) {
  const found = spawnSync('git', ['diff', '--name-only', '--diff-filter=d', commit], { encoding: 'utf8' });
  return found.stdout.split('\n').filter((file) => /\.(tsx?|mjs)$/.test(file));
}

const steps = [
  () => tool('typescript', ['--build']),
  () => since.length === 0 || tool('eslint', ['--max-warnings', '0', ...since]),
  () =>
    since.length === 0 ||
    tool('jest', [
      '--selectProjects',
      'core',
      'server',
      'web',
      '--findRelatedTests',
      '--passWithNoTests',
      ...since,
    ]),
];
if (!steps.every((step) => step())) process.exit(1);
