import { Injectable } from '@nestjs/common';
import { type Design, type ObjectKey, type Question } from '@zawn/core';
import { checkDesign, checkQuestion } from '@zawn/core/validation';
import { invalidInput } from '../../platform/http/problem';
import { Organisation } from '../organisation/organisation';

/** Checks questions that come from outside against the organisation's catalogue. */
@Injectable()
export class Questions {
  constructor(private readonly organisation: Organisation) {}

  /** @throws Problem `invalid-input` naming the places that are wrong. */
  async checked(value: unknown): Promise<Question> {
    const { value: question, faults } = checkQuestion(value, await this.organisation.catalogue());
    if (!question) throw invalidInput(faults);
    return question;
  }

  /** A question for records of one object. */
  async checkedFor(object: ObjectKey, value: unknown): Promise<Question> {
    const question = await this.checked(value);
    if (question.object !== object)
      throw invalidInput([{ field: 'question.object', message: `The question must ask for ${object}` }]);
    return question;
  }

  async checkedDesign(value: unknown): Promise<Design> {
    const { value: design, faults } = checkDesign(value, await this.organisation.catalogue());
    if (!design) throw invalidInput(faults);
    return design;
  }
}
