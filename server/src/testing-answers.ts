import { type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { Injectable, type CallHandler, type ExecutionContext, type NestInterceptor } from '@nestjs/common';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020';
import { tap, type Observable } from 'rxjs';
import routeTypes from './kernel/openapi/route-types.json';

type Json = Record<string, unknown>;

const answers = routeTypes.handlers as Record<string, { answer?: Json } | undefined>;

/** A schema whose objects have no other members than those it names, so that nothing is answered beside. */
function closed(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(closed);
  if (typeof schema !== 'object' || schema === null) return schema;
  const parts = Object.fromEntries(Object.entries(schema).map(([key, part]) => [key, closed(part)]));
  return 'properties' in parts && !('additionalProperties' in parts)
    ? { ...parts, additionalProperties: false }
    : parts;
}

const ajv = new Ajv2020({ strict: false, allErrors: true });
const schemas = closed(routeTypes.schemas) as Json;
const validators = new Map<string, ValidateFunction | undefined>();

function validatorOf(handler: string): ValidateFunction | undefined {
  if (!validators.has(handler)) {
    const answer = answers[handler]?.answer;
    validators.set(
      handler,
      answer && ajv.compile({ ...(closed(answer) as Json), components: { schemas } } as Json),
    );
  }
  return validators.get(handler);
}

/** Holds every answer of a server under test to what the API's description says of it. */
@Injectable()
export class AnswerCheck implements NestInterceptor {
  /** What was answered otherwise, each said once. */
  readonly faults = new Set<string>();

  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const handler = `${context.getClass().name}.${context.getHandler().name}`;
    return next.handle().pipe(tap((answer) => this.check(handler, answer)));
  }

  /**
   * Holds every refusal of the API to the one form that refusals have, wherever on the way it was refused. How well the
   * server is has a form of its own.
   */
  watch(server: Server): void {
    server.prependListener('request', ({ method, url }: IncomingMessage, response: ServerResponse) => {
      response.once('finish', () => {
        const type = String(response.getHeader('content-type'));
        if (response.statusCode < 400 || !url?.startsWith('/api/v1/')) return;
        if (!type.startsWith('application/problem+json'))
          this.faults.add(`${method} ${url.split('?')[0]} ${response.statusCode} as ${type}`);
      });
    });
  }

  private check(handler: string, answer: unknown): void {
    if (answer === undefined) return;
    const validate = validatorOf(handler);
    if (!validate || validate(JSON.parse(JSON.stringify(answer)))) return;
    for (const { instancePath, message, params } of validate.errors ?? [])
      this.faults.add(`${handler} ${instancePath.replace(/\d+/g, '0')} ${message} ${JSON.stringify(params)}`);
  }
}
