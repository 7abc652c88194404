import { Catch, HttpException, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import { DiscoveryService } from '@nestjs/core';
import { type Request, type Response } from 'express';
import { PinoLogger } from 'nestjs-pino';
import { discovered } from '../discovered';
import { Database } from '../database/database';
import { codeOf, storageTrouble, troubleProblems } from '../database/storage-trouble';
import { kindOfStatus, Problem, type ProblemKind } from './problem';

/** What the parts below Nest refuse a request with: a body that cannot be read, a file that is not there. */
interface RefusedRequest {
  status: number;
  type?: string;
}

const isRefusedRequest = (error: unknown): error is RefusedRequest => {
  if (typeof error !== 'object' || error === null || !('status' in error)) return false;
  return typeof error.status === 'number' && error.status >= 400 && error.status < 500;
};

const ALREADY_THERE = /^SQLITE_CONSTRAINT_(UNIQUE|PRIMARYKEY)$/;

const sentencesByKind: Partial<Record<ProblemKind, string>> = {
  'not-found': 'There is nothing at this address.',
  'too-large': 'What was sent is too large.',
  'beyond-end': 'The file ends before what was asked for.',
  'unsupported-type': 'What was sent is of a kind that is not understood here.',
};

const sentences: Record<string, string> = {
  'entity.too.large': 'What was sent is too large.',
  'entity.parse.failed': 'What was sent is not JSON.',
};

/** Anything thrown on the way to an answer, as a problem. Nothing of an internal error's text gets out. */
function problemOf(error: unknown): Problem {
  if (error instanceof Problem) return error;
  if (error instanceof HttpException) {
    const kind = kindOfStatus(error.getStatus());
    if (kind === 'too-many-requests')
      return new Problem(kind, 'Too many tries. Wait a minute, then try again.');
    return new Problem(kind, sentencesByKind[kind] ?? 'What was sent cannot be read.');
  }
  if (isRefusedRequest(error)) {
    const kind = kindOfStatus(error.status);
    const sentence = sentences[error.type ?? ''] ?? sentencesByKind[kind] ?? 'What was sent cannot be read.';
    return new Problem(kind, sentence);
  }
  if (ALREADY_THERE.test(codeOf(error)))
    return new Problem(
      'conflict',
      'Something with the same name or number is there already. Nothing was written.',
    );
  const trouble = storageTrouble(error);
  if (trouble) return troubleProblems[trouble]();
  return new Problem(
    'internal',
    'Something went wrong here. Nothing was written. Try again.',
    {},
    { cause: error },
  );
}

/** Marks a service that answers failures at its addresses with pages of its own: one that `HasProblemPages`. */
export const ProblemPages = DiscoveryService.createDecorator();

export interface HasProblemPages {
  /** What its addresses begin with. */
  readonly at: string;
  answer(response: Response, problem: Problem): void;
}

/** Answers every failure as `application/problem+json`, or as a page where people read it who do not use Zawn. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  constructor(
    private readonly logger: PinoLogger,
    private readonly database: Database,
    private readonly discovery: DiscoveryService,
  ) {}

  catch(error: unknown, host: ArgumentsHost): void {
    if (storageTrouble(error) === 'damaged') this.database.reader.isDamaged = true;
    const problem = problemOf(error);
    if (problem.kind === 'internal') this.logger.error({ err: error }, 'request failed');
    const response = host.switchToHttp().getResponse<Response>();
    const request = host.switchToHttp().getRequest<Request>();
    if (response.headersSent) {
      request.socket.destroy();
      return;
    }
    const pages = discovered<HasProblemPages>(this.discovery, ProblemPages);
    const page = pages.find(({ at }) => request.path.startsWith(at));
    if (page) {
      page.answer(response, problem);
      return;
    }
    response
      .status(problem.getStatus())
      .type('application/problem+json')
      .send(JSON.stringify(problem.document()));
  }
}
