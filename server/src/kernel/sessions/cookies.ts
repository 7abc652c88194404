import { stringifySetCookie } from 'cookie';
import { type Request, type Response } from 'express';
import { isEncrypted, sessionCookie, type Config } from '../../platform/config/config';
import { type NewSession, type Origin } from './sessions';

const LONGEST_BROWSER = 200;

/** Hands a cookie to the browser: out of reach of scripts, and not sent along from other sites. */
export function give(response: Response, config: Config, name: string, value: string, seconds: number): void {
  const cookie = stringifySetCookie({
    name,
    value,
    httpOnly: true,
    sameSite: 'lax',
    secure: isEncrypted(config),
    path: '/',
    maxAge: seconds,
  });
  response.append('Set-Cookie', cookie);
}

/** Hands a session to the browser. */
export const giveCookie = (response: Response, config: Config, { token, maxAgeMs }: NewSession): void =>
  give(response, config, sessionCookie(config), token, maxAgeMs / 1000);

/** From where a request comes. */
export const originOf = (request: Request): Origin => ({
  address: request.ip ?? '',
  browser: (request.get('User-Agent') ?? '').slice(0, LONGEST_BROWSER),
});
