import { build, install, options, say } from './steps.mjs';

options([]);
await install();
await build();
say('Built.');
