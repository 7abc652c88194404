import { install, options, root, tool } from './steps.mjs';

options([]);
install();
process.chdir(root);
// Ten times as many questions as the tests ask, or as many as are asked for.
const env = { ZAWN_FUZZ_CASES: process.env.ZAWN_FUZZ_CASES ?? '10000' };
const asked = [
  '--selectProjects',
  'server',
  '--testPathPatterns',
  'sql-against-memory',
  '--testTimeout',
  '3600000',
];
if (!tool('jest', asked, { env })) process.exit(1);
