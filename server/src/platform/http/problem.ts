import { HttpException, type HttpExceptionOptions } from '@nestjs/common';
import { type Fault, type ProblemBody } from '@zawn/core';

/** The stable names of everything that can go wrong, with the status each is answered with. */
const kinds = {
  'invalid-input': 422,
  'malformed-request': 400,
  'not-signed-in': 401,
  'wrong-credentials': 401,
  'second-step': 401,
  'second-step-due': 403,
  'not-allowed': 403,
  'missing-token': 403,
  'not-found': 404,
  'stale-version': 409,
  conflict: 409,
  'too-large': 413,
  'key-reused': 422,
  'guide-open': 422,
  'too-costly': 422,
  'unsupported-type': 415,
  'beyond-end': 416,
  'version-required': 428,
  'too-many-requests': 429,
  internal: 500,
  unavailable: 503,
  'storage-full': 507,
} as const;

export type ProblemKind = keyof typeof kinds;

/** A refusal that is answered as an RFC 9457 problem document. */
export class Problem extends HttpException {
  constructor(
    readonly kind: ProblemKind,
    readonly detail: string,
    readonly more: Pick<ProblemBody, 'faults' | 'current' | 'part'> = {},
    options?: HttpExceptionOptions,
  ) {
    super(detail, kinds[kind], options);
  }

  /** What is answered. No `body`: that name is given to an error by what reads requests, which puts there what was sent. */
  document(): ProblemBody {
    return {
      type: `/problems/${this.kind}`,
      title: this.kind.replaceAll('-', ' '),
      status: kinds[this.kind],
      detail: this.detail,
      ...this.more,
    };
  }
}

/** Input that failed its check, with every fault and the first of them as the sentence. */
export function invalidInput(faults: Fault[]): Problem {
  const detail = faults.map(({ message }) => message).join('. ');
  return new Problem('invalid-input', `${detail}. Nothing was written.`, { faults });
}

export function notFound(what: string): Problem {
  return new Problem('not-found', `${what} is not there, or not yours to see.`);
}

/** The problem kind that fits a status raised by the framework itself. */
export function kindOfStatus(status: number): ProblemKind {
  if (status === 413) return 'too-large';
  if (status === 415) return 'unsupported-type';
  if (status === 416) return 'beyond-end';
  if (status === 429) return 'too-many-requests';
  if (status === 404) return 'not-found';
  return status < 500 ? 'malformed-request' : 'internal';
}
