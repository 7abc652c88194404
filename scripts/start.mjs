import { build, dataFolder, install, options, start } from './steps.mjs';

options([]);
install();
build();
start(process.execPath, ['server/dist/launch.js'], { ZAWN_DATA: dataFolder('own') });
