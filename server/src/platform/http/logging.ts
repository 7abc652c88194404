import { randomUUID } from 'node:crypto';
import { type IncomingMessage, type ServerResponse } from 'node:http';
import { type Params } from 'nestjs-pino';

/**
 * Structured logs with a request id. They name the route and how it ended, never a query, a body, a cookie or an
 * address: nothing personal.
 */
export function loggingOptions(): Params {
  return {
    pinoHttp: {
      level: process.env.LOG_LEVEL ?? 'warn',
      genReqId: () => randomUUID(),
      serializers: {
        req: ({ id, method, url }: { id: string; method: string; url: string }) => ({
          id,
          method,
          path: url.replace(/\?.*$/, ''),
        }),
        res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
      },
      customLogLevel: (_: IncomingMessage, response: ServerResponse, error?: Error) =>
        error || response.statusCode >= 500 ? 'error' : 'info',
    },
  };
}
