import { accessSync, constants, existsSync, mkdirSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { isDay } from '@zawn/core';

export interface Config {
  port: number;
  /** Folder of the database file. */
  dataFolder: string;
  /** The day the clock stands at; undefined for the real time. */
  today?: string;
  /** Ships the demo company and lets people be picked on the sign-in page. */
  demo: boolean;
  /** Whether questions over many records are read in threads of their own, or in this one. */
  reading: 'pooled' | 'here';
}

/** Something about how Zawn was started is wrong; the message is one clear line for the terminal. */
export class StartError extends Error {}

/** Makes a folder and those above it, one by one: the recursive form never returns on some file systems. */
function makeFolder(folder: string): void {
  if (existsSync(folder)) return;
  makeFolder(dirname(folder));
  mkdirSync(folder);
}

/**
 * Reads the configuration from the environment.
 * @throws StartError naming the variable that is wrong.
 */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const port = Number(env.PORT ?? 4620);
  if (!Number.isInteger(port) || port < 1 || port > 65_535) {
    throw new StartError(`PORT is “${env.PORT}”; it must be a number from 1 to 65535.`);
  }
  if (env.ZAWN_TODAY !== undefined && !isDay(env.ZAWN_TODAY)) {
    throw new StartError(`ZAWN_TODAY is “${env.ZAWN_TODAY}”; it must be a real date as YYYY-MM-DD.`);
  }
  const dataFolder = resolve(env.ZAWN_DATA ?? 'data');
  try {
    makeFolder(dataFolder);
    accessSync(dataFolder, constants.W_OK);
  } catch {
    throw new StartError(
      `The data folder ${dataFolder} cannot be written to. Choose another with ZAWN_DATA.`,
    );
  }
  return { port, dataFolder, today: env.ZAWN_TODAY, demo: env.ZAWN_DEMO === '1', reading: 'pooled' };
}
