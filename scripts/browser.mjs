import { existsSync } from 'node:fs';
import { run, say, stop } from './steps.mjs';

const PROGRAMS = ['/usr/bin/chromium', '/usr/bin/chromedriver'];

/** Makes sure that headless Chromium and its driver are there, installing Debian's where that is allowed. */
export function haveBrowser() {
  if (PROGRAMS.every((program) => existsSync(program))) return;
  const advice = 'Install Debian’s packages chromium and chromium-driver, then run this again.';
  if (!existsSync('/usr/bin/apt-get') || process.getuid?.() !== 0)
    stop(`The browser tests need Chromium. ${advice}`);
  say('Installing chromium and chromium-driver …');
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  run('apt-get', ['update'], { env, quiet: true });
  if (!run('apt-get', ['install', '-y', '-qq', 'chromium', 'chromium-driver'], { env, quiet: true })) {
    stop(`Chromium could not be installed. ${advice}`);
  }
}
