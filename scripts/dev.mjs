import { spawn } from 'node:child_process';
import { build, dataFolder, install, options, root, run, say } from './steps.mjs';

options([]);
install();
build();

const api = process.env.ZAWN_API_PORT ?? '4621';
const env = {
  ZAWN_DATA: dataFolder('demo'),
  ZAWN_DEMO: '1',
  PORT: api,
  LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
};
run(process.execPath, ['server/dist/demo/main.js'], { env });
say(`The server reloads on port ${api}; open the address that Vite prints below.`);

// The compiler, the server and Vite watch side by side; one of them ending ends all.
const watchers = [
  ['node_modules/typescript/bin/tsc', '--build', '--watch', '--preserveWatchOutput', 'core', 'server'],
  ['--watch-path=server/dist', '--watch-path=core/dist', 'server/dist/main.js'],
  ['node_modules/vite/bin/vite.js', 'web', '--port', process.env.PORT ?? '4620'],
].map((args) =>
  spawn(process.execPath, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } }),
);
const end = () => {
  for (const watcher of watchers) watcher.kill();
};
for (const watcher of watchers) watcher.on('exit', end);
process.on('SIGINT', end);
process.on('SIGTERM', end);
