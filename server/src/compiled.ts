import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import NodeModule, { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { constants, Script } from 'node:vm';
import { isMainThread } from 'node:worker_threads';

/**
 * Makes this thread load the server's bundle with what the engine compiled of it before; that halves a start, and that
 * of each thread. Whoever ends in good order, as `--try` does, leaves what was compiled for the next.
 */

/** Where the bundle is. */
export const BUNDLE = join(__dirname, '..', 'bundle');

/** What a CommonJS module is wrapped in. */
type Wrapped = (
  exports: unknown,
  require: NodeJS.Require,
  module: NodeJS.Module,
  file: string,
  folder: string,
) => void;

interface Loader {
  _extensions: Record<string, (module: NodeJS.Module, file: string) => void>;
  wrap: (source: string) => string;
}

const loader = NodeModule as unknown as Loader;
const loadAsUsual = loader._extensions['.js'];
const compiledAnew: { script: Script; kept: string }[] = [];

const readIfThere = (file: string): Buffer | undefined => {
  try {
    return readFileSync(file);
  } catch {
    return undefined;
  }
};

function load(module: NodeJS.Module, file: string): void {
  const kept = `${file}.compiled`;
  // The bundle is written in ASCII.
  const script = new Script(loader.wrap(readFileSync(file, 'latin1')), {
    filename: file,
    cachedData: readIfThere(kept),
    importModuleDynamically: constants.USE_MAIN_CONTEXT_DEFAULT_LOADER,
  });
  // Nothing was kept, or another version of the engine kept it.
  if (script.cachedDataRejected !== false) compiledAnew.push({ script, kept });
  const run = script.runInThisContext() as Wrapped;
  run.call(module.exports, module.exports, createRequire(file), module, file, dirname(file));
}

loader._extensions['.js'] = (module, file) =>
  dirname(file) === BUNDLE ? load(module, file) : loadAsUsual(module, file);

function keepCompiled(): void {
  try {
    for (const { script, kept } of compiledAnew) {
      const unfinished = `${kept}.${process.pid}`;
      writeFileSync(unfinished, script.createCachedData());
      renameSync(unfinished, kept);
    }
  } catch {
    // A folder that cannot be written to only makes the next start slower.
  }
}

if (isMainThread) process.once('exit', keepCompiled);
