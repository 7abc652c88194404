import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import ts from 'typescript';
import { options, root, stop } from './steps.mjs';

/**
 * Ends with an error when files import each other in a circle, types included: whatever two of them need stands in a
 * third.
 */

options([]);

const filesIn = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && /\.tsx?$/.test(entry.name))
    .map((entry) => join(entry.parentPath, entry.name));

/** The file that a relative import names; undefined for one of another kind, such as a style sheet. */
const fileOf = (from, name) =>
  ['.ts', '.tsx', '/index.ts', '/index.tsx']
    .map((ending) => resolve(dirname(from), name) + ending)
    .find((file) => existsSync(file));

function importsOf(file) {
  const { importedFiles } = ts.preProcessFile(readFileSync(file, 'utf8'));
  return importedFiles
    .map(({ fileName }) => fileName)
    .filter((name) => name.startsWith('.'))
    .flatMap((name) => fileOf(file, name) ?? []);
}

const files = ['core', 'server', 'web', 'e2e', 'bench'].flatMap((floor) => filesIn(join(root, floor, 'src')));
const imports = new Map(files.map((file) => [file, importsOf(file)]));
const done = new Set();

/** The first circle met on the way down from a file, as the files on it; undefined when there is none. */
function circleBelow(file, above) {
  const at = above.indexOf(file);
  if (at >= 0) return [...above.slice(at), file];
  if (done.has(file)) return undefined;
  for (const next of imports.get(file) ?? []) {
    const circle = circleBelow(next, [...above, file]);
    if (circle) return circle;
  }
  done.add(file);
  return undefined;
}

for (const file of files) {
  const circle = circleBelow(file, []);
  if (circle)
    stop(
      `These files import each other in a circle:\n${circle.map((each) => `  ${relative(root, each)}`).join('\n')}`,
    );
}
