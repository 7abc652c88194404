import { Injectable } from '@nestjs/common';
import { type Response } from 'express';
import { ProblemPages, type HasProblemPages } from '../../platform/http/problem-filter';
import { type Problem } from '../../platform/http/problem';
import { formTrouble } from './published.controller';

/** Tells visitors on a page of their own what went wrong with a form. */
@ProblemPages()
@Injectable()
export class FormProblems implements HasProblemPages {
  readonly at = '/f/';

  answer(response: Response, problem: Problem): void {
    formTrouble(response, problem.getStatus(), problem.detail);
  }
}
