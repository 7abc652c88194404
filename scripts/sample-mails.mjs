import { build, install, options, run } from './steps.mjs';

options([]);
install();
build();
process.exit(run(process.execPath, ['server/dist/stand-ins/send-samples.js']) ? 0 : 1);
