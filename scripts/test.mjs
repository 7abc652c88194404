import { accessSync, constants, existsSync, mkdirSync, readFileSync, rmSync, statfsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { haveBrowser } from './browser.mjs';
import { build, install, options, root, run, say, scriptBeside, tool, toolBeside } from './steps.mjs';

options([]);
const started = Date.now();
const MEMORY = '/dev/shm';
const ROOM = 4 * 1024 ** 3;

/** A folder in memory with room for what tests write; undefined where there is none. */
function roomInMemory() {
  try {
    accessSync(MEMORY, constants.W_OK);
    const { bavail, bsize } = statfsSync(MEMORY);
    return bavail * bsize > ROOM ? MEMORY : undefined;
  } catch {
    return undefined;
  }
}

const counts = { passed: 0, failed: 0 };

/** Closes with the one line that counts. */
function finish() {
  const seconds = Math.round((Date.now() - started) / 1000);
  say(`\nin ${Math.floor(seconds / 60)} min ${seconds % 60} s`);
  say(`${counts.passed} passed, ${counts.failed} failed`);
  process.exit(counts.failed > 0 ? 1 : 0);
}

/** A step that is right or wrong as a whole and counts as one. */
function check(name, step) {
  say(`\n${name} …`);
  const passed = step();
  counts[passed ? 'passed' : 'failed'] += 1;
  if (!passed) finish();
}

/** Names each test that failed and how it began to: what Jest prints of them is long. */
function nameFailed({ testResults = [] }) {
  for (const { name, message, assertionResults } of testResults) {
    const failed = assertionResults.filter(({ status }) => status === 'failed');
    const troubles = failed.map(({ fullName, failureMessages }) => [fullName, failureMessages[0] ?? '']);
    // A file that could not be run has no tests.
    if (message && assertionResults.length === 0) troubles.push(['the file as a whole', message]);
    for (const [what, how] of troubles)
      say(`\nFailed: ${basename(name)}: ${what}\n  ${how.trim().slice(0, 400)}`);
  }
}

/** Runs Jest projects and adds up their tests; nothing executed is a failure. */
async function jest(name, projects, more = []) {
  say(`\n${name} …`);
  const outputFile = join(root, '.cache', `${projects[0]}-results.json`);
  mkdirSync(join(root, '.cache'), { recursive: true });
  rmSync(outputFile, { force: true });
  const { passed } = await toolBeside(
    'jest',
    ['--selectProjects', ...projects, ...more, '--json', `--outputFile=${outputFile}`],
    { env: { NODE_ENV: 'test' }, aloud: true },
  );
  const result = existsSync(outputFile) ? JSON.parse(readFileSync(outputFile, 'utf8')) : undefined;
  nameFailed(result ?? {});
  counts.passed += result?.numPassedTests ?? 0;
  counts.failed +=
    (result?.numFailedTests ?? 0) + (result?.numFailedTestSuites ?? 0) * (result?.numFailedTests ? 0 : 1);
  if (!passed || !result?.numPassedTests) {
    counts.failed ||= 1;
    finish();
  }
}

// What tests write lies in memory where there is room for it: they wait for the disk at every commit otherwise.
process.env.TMPDIR ??= roomInMemory() ?? tmpdir();
install();
check('Types', () => tool('typescript', ['--build']));
check('Circles', () => run(process.execPath, ['scripts/circles.mjs']));
// Read beside the tests; what they find is said before the stories begin.
const beside = [
  ['Format', toolBeside('prettier', ['--check', '--log-level', 'warn', '.'])],
  ['Lint', toolBeside('eslint', ['--max-warnings', '0', '.'])],
  ['Route types', scriptBeside('scripts/route-types.mjs', ['--check'])],
];
await jest('Unit and API tests', ['core', 'server', 'web']);
for (const [name, found] of beside) {
  const { passed, said } = await found;
  check(name, () => (passed ? true : void say(said)));
}
build();
haveBrowser();
await jest('Browser stories', ['e2e']);
await jest('Stories that measure', ['alone'], ['--runInBand']);
finish();
