import 'reflect-metadata';
import { readConfig, StartError } from '../../platform/config/config';
import { backUp } from './backup';
import { check } from './check';
import { restore } from './restore';

const mib = (bytes: number) => `${(bytes / 1024 / 1024).toFixed(1)} MiB`;
const said = (lines: readonly string[]) => process.stdout.write(`${lines.join('\n')}\n`);

/** Keeps a data folder, brings one back, or looks through one: `backup FILE`, `restore FILE`, `check`. */
async function main([command, file]: readonly string[]): Promise<void> {
  const { dataFolder } = readConfig(process.env);
  const at = new Date().toISOString();
  if (command === 'check') {
    const { lines, isWhole } = await check(dataFolder);
    said(lines);
    if (!isWhole) process.exitCode = 1;
    return;
  }
  if (file === undefined)
    throw new StartError(
      `Say which file: npm run ${command} -- ${command === 'backup' ? 'to' : 'from'}.tar.gz`,
    );
  if (command === 'backup') {
    const { organisation, database, files } = await backUp(dataFolder, file, at);
    said([
      `Kept ${organisation}: a database of ${mib(database.bytes)} and ${files} files, in ${file}. It opens.`,
    ]);
    return;
  }
  const { manifest, aside } = await restore(file, dataFolder, at);
  said([
    `Brought back ${manifest.organisation} as it was at ${manifest.at}, into ${dataFolder}.`,
    aside === null ? 'Nothing lay there before.' : `What lay there before is kept in ${aside}.`,
  ]);
}

main(process.argv.slice(2)).catch((error: unknown) => {
  if (!(error instanceof StartError)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
