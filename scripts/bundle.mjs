import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
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
  'movement-worker': join(compiled, 'features', 'reports', 'movement-worker.js'),
  'mail-worker': join(compiled, 'features', 'mail', 'mail-worker.js'),
  'import-worker': join(compiled, 'features', 'imports', 'import-worker.js'),
};

/** What brings compiled code, files or threads of its own, and what is read only when a sheet is. */
const asPackages = [/^better-sqlite3$/, /^@node-rs\//, /^piscina$/, /^exceljs$/, /^@fontsource/];

/** The drivers of engines that are not Zawn's are an eighth of what a start reads; none of them is ever made. */
const otherEngines = {
  name: 'other-engines',
  load: (id) =>
    /[\\/]typeorm[\\/]driver[\\/](?!sqlite-abstract|better-sqlite3)[^\\/]+[\\/]/.test(id)
      ? 'module.exports = {};'
      : null,
};

/** JavaScript that means the same without letters beyond ASCII; a backslash before one becomes that of its escape. */
const inAscii = (code) =>
  code.replace(/(?<!\\)((?:\\\\)*)(\\?)([\u0080-\uffff])/g, (_all, before, _escaping, letter) => {
    return `${before}\\u${letter.charCodeAt(0).toString(16).padStart(4, '0')}`;
  });

// What was compiled of other files of the same length would be taken for these.
rmSync(bundle, { recursive: true, force: true });
const built = await rolldown({
  input,
  platform: 'node',
  external: asPackages,
  plugins: [otherEngines],
  // Drivers and transports that are asked for only where somebody uses them are not installed.
  checks: { unresolvedImport: false },
});
await built.write({
  dir: bundle,
  format: 'cjs',
  keepNames: true,
  entryFileNames: '[name].js',
  chunkFileNames: '[name].js',
  // The server's own thread was started by what does so.
  banner: ({ name }) => (name.endsWith('-worker') ? `require('../dist/compiled.js');` : ''),
});
await built.close();

// A text with one letter beyond Latin-1 is held with two bytes for each of its letters, and read more slowly.
for (const file of readdirSync(bundle, { withFileTypes: true }).filter((entry) => entry.isFile())) {
  const path = join(bundle, file.name);
  const code = readFileSync(path, 'utf8');
  // What was compiled before cannot import: a package that stays one is loaded by `lazyPackage`.
  if (/\bawait import\(/.test(code)) stop(`${file.name} imports a package while it runs.`);
  writeFileSync(path, inAscii(code));
}

const launch = join(compiled, 'launch.js');
const tried = mkdtempSync(join(tmpdir(), 'zawn-try-'));
const starts = run(process.execPath, [launch, '--try'], {
  quiet: true,
  env: { ZAWN_DATA: tried, ZAWN_DEMO: '0' },
});
rmSync(tried, { recursive: true });
if (!starts) stop('The bundled server does not start.');
