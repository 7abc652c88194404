import { Catch, HttpException, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import { type Request, type Response } from 'express';
import { PinoLogger } from 'nestjs-pino';
import { formTrouble } from '../forms/published.controller';
import { Database } from '../database/database';
import { storageTrouble, troubleProblems } from '../database/storage-trouble';
import { kindOfStatus, Problem, type ProblemKind } from './problem';

interface BodyParserError extends Error {
  status: number;
  type: string;
}

const isBodyParserError = (error: unknown): error is BodyParserError =>
  error instanceof Error && 'type' in error && 'status' in error && typeof error.status === 'number';

const sentencesByKind: Partial<Record<ProblemKind, string>> = {
  'not-found': 'There is nothing at this address.',
  'too-large': 'What was sent is too large.',
  'malformed-request': 'What was sent is not JSON.',
};

const sentences: Record<string, string> = {
  'entity.too.large': 'What was sent is too large.',
  'entity.parse.failed': 'What was sent is not JSON.',
};

/** Anything thrown on the way to an answer, as a problem. Nothing of an internal error's text gets out. */
function problemOf(error: unknown): Problem {
  if (error instanceof Problem) return error;
  if (isBodyParserError(error)) {
    return new Problem(kindOfStatus(error.status), sentences[error.type] ?? 'What was sent cannot be read.');
  }
  if (error instanceof HttpException) {
    const kind = kindOfStatus(error.getStatus());
    if (kind === 'too-many-requests')
      return new Problem(kind, 'Too many tries. Wait a minute, then try again.');
    return new Problem(kind, sentencesByKind[kind] ?? 'What was sent cannot be read.');
  }
  const trouble = storageTrouble(error);
  if (trouble) return troubleProblems[trouble]();
  return new Problem(
    'internal',
    'Something went wrong here. Nothing was written. Try again.',
    {},
    { cause: error },
  );
}

/** Answers every failure as `application/problem+json`. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  constructor(
    private readonly logger: PinoLogger,
    private readonly database: Database,
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
    if (request.path.startsWith('/f/')) {
      formTrouble(response, problem.getStatus(), problem.detail);
      return;
    }
    response
      .status(problem.getStatus())
      .type('application/problem+json')
      .send(JSON.stringify(problem.body()));
  }
}
