import { build, install, options, say } from './steps.mjs';

options([]);
install();
build();
say('Built.');
