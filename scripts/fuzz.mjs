import { build, install, options, root, tool } from './steps.mjs';

options([]);
install();
build();

process.chdir(root);
// Ten times as many questions as the tests ask, and ten times as many cuts; or as many as are asked for.
const env = {
  ZAWN_FUZZ_CASES: process.env.ZAWN_FUZZ_CASES ?? '10000',
  ZAWN_CUTS: process.env.ZAWN_CUTS ?? '300',
  ZAWN_FUZZ_ROLES: process.env.ZAWN_FUZZ_ROLES ?? '100',
};
const runs = [
  ['server', 'sql-against-memory'],
  ['server', 'src/permissions/'],
  ['alone', 'many-cuts'],
];
for (const [project, tests] of runs) {
  const asked = ['--selectProjects', project, '--testPathPatterns', tests, '--testTimeout', '7200000'];
  if (!tool('jest', asked, { env })) process.exit(1);
}
