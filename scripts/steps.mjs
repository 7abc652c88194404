import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { setPriority } from 'node:os';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's folder. */
export const root = fileURLToPath(new URL('..', import.meta.url));

export const say = (text) => console.log(text);

/** Ends the command with one clear line. */
export function stop(line) {
  console.error(line);
  process.exit(1);
}

/** The options given, each of which must be one of those known. */
export function options(known) {
  const given = process.argv.slice(2);
  const unknown = given.find((option) => !known.includes(option));
  if (unknown) stop(`There is no option ${unknown}. Known here: ${known.join(', ') || 'none'}.`);
  return new Set(given);
}

/** Runs a program to its end; true when it ended well. */
export function run(program, args, { env = {}, quiet = false } = {}) {
  const { status } = spawnSync(program, args, {
    cwd: root,
    stdio: quiet ? 'ignore' : 'inherit',
    env: { ...process.env, ...env },
  });
  return status === 0;
}

/** Runs a program of the installed packages. */
export const tool = (name, args, more) => run(process.execPath, [toolPath(name), ...args], more);

/** Runs a program of the installed packages beside others: see `scriptBeside`. */
export const toolBeside = (name, args, more) => scriptBeside(toolPath(name), args, more);

/**
 * Runs a script beside others. One that is not heard makes way for those that are: a test may not wait for a reader.
 * @returns whether it ended well, and what it said unless it said so aloud.
 */
export function scriptBeside(script, args, { env = {}, aloud = false } = {}) {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [script, ...args], {
      cwd: root,
      stdio: aloud ? 'inherit' : ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, ...env },
    });
    if (!aloud && child.pid) setPriority(child.pid, 10);
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', (part) => (said += part));
    child.on('exit', (code) => resolve({ passed: code === 0, said }));
  });
}

function toolPath(name) {
  const manifest = JSON.parse(readFileSync(join(root, 'node_modules', name, 'package.json'), 'utf8'));
  const bin = typeof manifest.bin === 'string' ? manifest.bin : (manifest.bin[name] ?? manifest.bin.tsc);
  return join(root, 'node_modules', name, bin);
}

/** Starts a long-running program that ends with this one. */
export function start(program, args, env = {}) {
  const child = spawn(program, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code) => process.exit(code ?? 0));
  return child;
}

function filesUnder(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    return entry.isDirectory() ? filesUnder(path) : [path];
  });
}

/** Does a step only when what it depends on has changed since it last ended well. */
function unlessDone(name, files, isThere, step) {
  const hash = createHash('sha256');
  for (const file of files) hash.update(file).update(readFileSync(file));
  const stamp = join(root, '.cache', name);
  const wanted = hash.digest('hex');
  if (isThere && existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  rmSync(stamp, { force: true });
  step();
  mkdirSync(join(root, '.cache'), { recursive: true });
  writeFileSync(stamp, wanted);
}

/** Installs the packages as the lock file names them. */
export function install() {
  const major = Number(process.versions.node.split('.')[0]);
  if (major < 20) stop(`Zawn needs Node 20 or later; this is ${process.version}.`);
  const manifests = ['.', 'core', 'server', 'web', 'e2e', 'bench'].map((floor) =>
    join(root, floor, 'package.json'),
  );
  const files = [join(root, 'package-lock.json'), ...manifests];
  unlessDone('installed', files, existsSync(join(root, 'node_modules')), () => {
    say('Installing packages (a few minutes the first time) …');
    const npm = process.platform === 'win32' ? 'npm.cmd' : 'npm';
    if (!run(npm, ['ci', '--no-audit', '--no-fund']))
      stop('Installing the packages failed; what npm says is above.');
  });
}

/** Builds core, server and web application. */
export function build() {
  const floors = ['core', 'server', 'web', 'e2e', 'bench'];
  const sources = floors.flatMap((floor) => [
    ...filesUnder(join(root, floor, 'src')),
    join(root, floor, 'tsconfig.json'),
  ]);
  const others = ['web/index.html', 'web/vite.config.ts', 'tsconfig.base.json', 'scripts/bundle.mjs'].map(
    (file) => join(root, file),
  );
  const outputs = ['server/bundle/main.js', 'web/dist/index.html', 'e2e/dist/screenshots.js'];
  const isThere = outputs.every((file) => existsSync(join(root, file)));
  unlessDone('built', [...sources, ...others], isThere, () => {
    say('Building …');
    removeLeftOver();
    if (!tool('typescript', ['--build'])) stop('The build failed; what the compiler says is above.');
    if (!run(process.execPath, ['scripts/bundle.mjs'])) stop('Bundling the server failed; why is above.');
    if (!buildWeb()) stop('Building the web application failed; what Vite says is above.');
  });
}

/** Removes what was compiled from sources that are gone: it could be found in place of what they became. */
function removeLeftOver() {
  for (const floor of ['core', 'server', 'e2e', 'bench']) {
    const compiled = join(root, floor, 'dist');
    if (!existsSync(compiled)) continue;
    for (const file of filesUnder(compiled)) {
      const [, name] = /^(.+?)\.(?:d\.ts|js)$/.exec(relative(compiled, file)) ?? [];
      if (name && !existsSync(join(root, floor, 'src', `${name}.ts`))) rmSync(file);
    }
  }
}

export const buildWeb = () => tool('vite', ['build', 'web', '--logLevel', 'warn']);

/** The data folder a command works in. */
export const dataFolder = (fallback) => process.env.ZAWN_DATA ?? join(root, 'data', fallback);

export const isFolder = (path) => existsSync(path) && statSync(path).isDirectory();

/**
 * Keeps the data folder of `npm start`, or that of ZAWN_DATA, brings one back, or looks through it.
 * @param command `backup`, `restore` or `check`.
 */
export function keepSafe(command) {
  install();
  build();
  const env = { ZAWN_DATA: dataFolder('own') };
  const args = ['server/dist/features/safe-keeping/main.js', command, ...process.argv.slice(2)];
  if (!run(process.execPath, args, { env })) process.exit(1);
}
