import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { rolldown } from 'rolldown';
import { root, run, stop } from './steps.mjs';

/**
 * Puts the built server into one file for each of its threads and lets it be compiled once: finding, reading and
 * compiling two thousand modules is most of a start.
 */

const compiled = join(root, 'server', 'dist');
const bundle = join(root, 'server', 'bundle');

/** The server, and what runs in threads of its own. */
const input = {
  main: join(compiled, 'main.js'),
  'reading-worker': join(compiled, 'platform', 'database', 'reading-worker.js'),
  'mail-worker': join(compiled, 'features', 'mail', 'mail-worker.js'),
  'import-worker': join(compiled, 'features', 'imports', 'import-worker.js'),
};

/** What brings compiled code, files or threads of its own, and what is read only when a sheet is. */
const asPackages = [/^better-sqlite3$/, /^@node-rs\//, /^piscina$/, /^exceljs$/, /^@fontsource/];

// What was compiled of other files of the same length would be taken for these.
rmSync(bundle, { recursive: true, force: true });
const built = await rolldown({
  input,
  platform: 'node',
  external: asPackages,
  // Drivers and transports that are asked for only where somebody uses them are not installed.
  checks: { unresolvedImport: false },
});
await built.write({
  dir: bundle,
  format: 'cjs',
  keepNames: true,
  entryFileNames: '[name].js',
  chunkFileNames: '[name].js',
});
await built.close();

const launch = join(compiled, 'launch.js');
if (!run(process.execPath, [launch, '--version'], { quiet: true }))
  stop('The bundled server does not start.');
