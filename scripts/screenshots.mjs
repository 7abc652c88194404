import { haveBrowser } from './browser.mjs';
import { build, install, run } from './steps.mjs';

install();
build();
haveBrowser();
process.exit(run(process.execPath, ['e2e/dist/screenshots.js', ...process.argv.slice(2)]) ? 0 : 1);
