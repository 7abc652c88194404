import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { build, dataFolder, install, options, run, say, stop } from './steps.mjs';

options([]);
install();
build();

const env = {
  ZAWN_DATA: dataFolder('bench'),
  ZAWN_DEMO: '1',
  ZAWN_LARGE: '1',
  ZAWN_TODAY: '2026-11-19',
};
if (!existsSync(join(env.ZAWN_DATA, 'zawn.sqlite'))) {
  say('Writing the large set (some minutes, once) …');
  if (!run(process.execPath, ['server/dist/demo/main.js'], { env }))
    stop('The large set could not be written.');
}
say('Measuring …');
if (!run(process.execPath, ['bench/dist/bench.js'], { env })) process.exit(1);
say('Written to bench/README.md.');
