import { accessSync, constants, existsSync, mkdirSync, statSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { isDay, isInstant } from '@zawn/core';

export interface Config {
  port: number;
  /** Where people open Zawn, for links in mail: `https://zawn.example`. */
  address: string;
  /** The proxies whose word on the caller's address is taken: a count, or addresses with commas between. */
  proxies?: number | string;
  /** Folder of the database file. */
  dataFolder: string;
  /** The day the clock stands at; undefined for the real time. */
  today?: string;
  /** Ships the demo company and lets people be picked on the sign-in page. */
  demo: boolean;
  /** It is the demo that another Zawn on this machine started beside itself, and ends with that. */
  isBeside?: true;
  /** What an acknowledged write outlives: a power failure, or, with `fast`, only the end of the process. */
  durability?: 'full' | 'fast';
  /** Whether questions over many records are read in threads of their own, or in this one. */
  reading: 'pooled' | 'here';
  /** How many seconds of the phone stand-in pass in one; one when left out. */
  phonePace?: number;
  /** Of a hundred people the phone stand-in did not reach, so many call back; nobody when left out. */
  phoneCallsBack?: number;
  /** Where the mail stand-in listens; it does not when left out. */
  mail?: {
    port: number;
    /** Somebody chose this port; otherwise Zawn starts without mail where it is taken. */
    isChosen: boolean;
  };
  /** The mail server that Zawn sends through instead of the stand-in: `smtp://host:port`. */
  smtp?: string;
  /** Where a backup is put each night, and how many of them are kept. */
  backups?: { folder: string; keeps: number };
}

/** Where the demo's mail stand-in listens unless another port is chosen. */
export const DEMO_MAIL_PORT = 4625;

/** Whether people reach Zawn by an encrypted address: cookies are then kept to it. */
export const isEncrypted = ({ address }: Config) => address.startsWith('https://');

/** What the browser keeps a session by: two on one machine, told apart by their ports only, do not share theirs. */
export const sessionCookie = ({ isBeside }: Config) => (isBeside ? 'zawn_beside' : 'zawn_session');

/** Of a hundred who were not reached, so many call back where nobody says how many. */
const CALLS_BACK = 25;

/** Backups that are kept where nobody says how many: two weeks of them. */
const KEPT = 14;

/** Something about how Zawn was started is wrong; the message is one clear line for the terminal. */
export class StartError extends Error {}

/** Makes a folder and those above it, one by one: the recursive form never returns on some file systems. */
function makeFolder(folder: string): void {
  if (existsSync(folder)) return;
  makeFolder(dirname(folder));
  mkdirSync(folder);
}

function readPort(env: NodeJS.ProcessEnv, name: string): number | undefined {
  if (env[name] === undefined) return undefined;
  const port = Number(env[name]);
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new StartError(`${name} is “${env[name]}”; it must be a number from 1 to 65535.`);
  return port;
}

/**
 * Reads the configuration from the environment.
 * @throws StartError naming the variable that is wrong.
 */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const port = readPort(env, 'PORT') ?? 4620;
  const demo = env.ZAWN_DEMO === '1';
  const chosen = readPort(env, 'ZAWN_MAIL_PORT');
  const mailPort = chosen ?? (demo ? DEMO_MAIL_PORT : undefined);
  const smtp = env.ZAWN_SMTP;
  if (smtp !== undefined && !/^smtps?:\/\/[^\s/]+/.test(smtp)) {
    throw new StartError('ZAWN_SMTP must be an address such as smtp://mail.example:587.');
  }
  const address = env.ZAWN_ADDRESS ?? `http://localhost:${port}`;
  if (!/^https?:\/\/[^\s/?#]+$/.test(address))
    throw new StartError('ZAWN_ADDRESS must be where people open Zawn, such as https://zawn.example.');
  if (env.ZAWN_TODAY !== undefined && !isDay(env.ZAWN_TODAY) && !isInstant(env.ZAWN_TODAY)) {
    throw new StartError(
      `ZAWN_TODAY is “${env.ZAWN_TODAY}”; it must be a real date as YYYY-MM-DD, or an instant such as 2026-11-19T09:30:00Z.`,
    );
  }
  const proxies = /^\d{1,2}$/.test(env.ZAWN_PROXIES ?? '') ? Number(env.ZAWN_PROXIES) : env.ZAWN_PROXIES;
  const durability = env.ZAWN_DURABILITY ?? 'full';
  if (durability !== 'full' && durability !== 'fast')
    throw new StartError(`ZAWN_DURABILITY is “${durability}”; it must be full or fast.`);
  const pace = Number(env.ZAWN_PHONE_PACE ?? 1);
  if (!(pace > 0 && pace <= 1000))
    throw new StartError(`ZAWN_PHONE_PACE is “${env.ZAWN_PHONE_PACE}”; it must be a number up to 1000.`);
  const callsBack = Number(env.ZAWN_PHONE_CALLS_BACK ?? CALLS_BACK);
  if (!(callsBack >= 0 && callsBack <= 100))
    throw new StartError(
      `ZAWN_PHONE_CALLS_BACK is “${env.ZAWN_PHONE_CALLS_BACK}”; it must be a number from 0 to 100.`,
    );
  const keeps = Number(env.ZAWN_BACKUPS_KEPT ?? KEPT);
  if (!Number.isInteger(keeps) || keeps < 1)
    throw new StartError(`ZAWN_BACKUPS_KEPT is “${env.ZAWN_BACKUPS_KEPT}”; it must be a number from 1.`);
  const dataFolder = resolve(env.ZAWN_DATA ?? 'data');
  try {
    makeFolder(dataFolder);
    if (!statSync(dataFolder).isDirectory())
      throw new StartError(
        `${dataFolder} is a file; the data folder is to be there. Choose another with ZAWN_DATA.`,
      );
    accessSync(dataFolder, constants.W_OK);
  } catch (error) {
    if (error instanceof StartError) throw error;
    throw new StartError(
      `The data folder ${dataFolder} cannot be written to. Choose another with ZAWN_DATA.`,
    );
  }
  return {
    port,
    address,
    dataFolder,
    today: env.ZAWN_TODAY,
    demo,
    ...(env.ZAWN_BESIDE === '1' ? { isBeside: true as const } : {}),
    ...(proxies === undefined ? {} : { proxies }),
    durability,
    reading: 'pooled',
    ...(mailPort === undefined ? {} : { mail: { port: mailPort, isChosen: chosen !== undefined } }),
    ...(smtp === undefined ? {} : { smtp }),
    ...(pace === 1 ? {} : { phonePace: pace }),
    phoneCallsBack: callsBack,
    ...(env.ZAWN_BACKUPS ? { backups: { folder: resolve(env.ZAWN_BACKUPS), keeps } } : {}),
  };
}
