import { readConfig, StartError } from './platform/config/config';
import { createServer, listen } from './server';
import { version } from './platform/config/version';

/** How long what is running may take to come to its end once Zawn is told to stop. */
const LAST_MS = 4000;

/**
 * Sees to it that a stop is one, whatever runs: a thread deep inside the engine does not listen. Ending at once is
 * safe, as nothing is acknowledged before it is kept.
 */
function endInTime(): void {
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () => setTimeout(() => process.kill(process.pid, 'SIGKILL'), LAST_MS).unref());
}

/** What was started beside another Zawn holds its end of a pipe, which closes however that one ends. */
function endWithParent(): void {
  process.stdin.resume().once('close', () => process.kill(process.pid, 'SIGTERM'));
}

async function main(): Promise<void> {
  if (process.argv.includes('--version')) {
    process.stdout.write(`${version}\n`);
    return;
  }
  endInTime();
  const config = readConfig(process.env);
  if (config.isBeside) endWithParent();
  const app = await createServer(config);
  // Whoever builds Zawn sees so that it starts, and what was compiled on the way is kept for every later start.
  if (process.argv.includes('--try')) {
    await app.init();
    await app.close();
    return;
  }
  await listen(app, config.port);
  process.stdout.write(`Zawn is ready at http://localhost:${config.port}\n`);
}

main().catch((error: unknown) => {
  if (!(error instanceof StartError)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
