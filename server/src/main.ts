import { readConfig, StartError } from './config';
import { createServer, listen } from './server';

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const app = await createServer(config);
  await listen(app, config.port);
  process.stdout.write(`Zawn is ready at http://localhost:${config.port}\n`);
}

main().catch((error: unknown) => {
  if (!(error instanceof StartError)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
