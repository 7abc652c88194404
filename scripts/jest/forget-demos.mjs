import { rmSync } from 'node:fs';

export default function forgetDemos() {
  const folder = process.env.ZAWN_TEST_DEMOS;
  if (folder) rmSync(folder, { recursive: true, force: true });
}
