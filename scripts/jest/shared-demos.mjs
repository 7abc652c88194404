import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Makes a folder in which tests keep the demo companies they made, for others of the same run to begin with. */
export default function shareDemos() {
  process.env.ZAWN_TEST_DEMOS ??= mkdtempSync(join(tmpdir(), 'zawn-demos-'));
}
