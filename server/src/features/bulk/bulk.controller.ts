import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { customisable, type BulkPreview, type BulkRequest, type Job } from '@zawn/core';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { Questions } from '../../kernel/questions/questions';
import { type WriteContext } from '../../kernel/records/door';
import { ByHand } from '../../kernel/records/by-hand';
import { closingMany } from '../deals/closing-schema';
import { Bulk } from './bulk';
import { ForPrograms } from '../../platform/sessions/scopes';

const id = Joi.number().integer().positive().max(9e15);
const values = Joi.object().unknown();
const tags = Joi.array().items(Joi.string().max(40)).max(20);

const action = Joi.object({
  do: Joi.string().valid('change', 'tag', 'plan', 'delete', 'close', 'addToList', 'takeFromList').required(),
})
  .when(Joi.object({ do: 'change' }).unknown(), { then: Joi.object({ values: values.min(1).required() }) })
  .when(Joi.object({ do: 'tag' }).unknown(), {
    then: Joi.object({ add: tags.required(), remove: tags.required() }),
  })
  .when(Joi.object({ do: 'close' }).unknown(), { then: Joi.object({ closing: closingMany.required() }) })
  .when(Joi.object({ do: 'plan' }).unknown(), { then: Joi.object({ activity: values.required() }) })
  .when(Joi.object({ do: Joi.valid('addToList', 'takeFromList') }).unknown(), {
    then: Joi.object({ list: id.required() }),
  });

const request = Joi.object<BulkRequest>({
  object: Joi.string()
    .valid(...customisable.map(({ key }) => key))
    .required(),
  selection: Joi.alternatives(
    Joi.object({ ids: Joi.array().items(id).min(1).max(10_000).required() }),
    Joi.object({
      question: Joi.object().unknown().required().meta({ 'x-schema': 'Question' }),
      except: Joi.array().items(id).max(10_000),
    }),
  )
    .required()
    .label('Selection'),
  action: action.required(),
});

@ForPrograms()
@Controller('api/v1/bulk')
export class BulkController {
  constructor(
    private readonly bulk: Bulk,
    private readonly questions: Questions,
  ) {}

  /** What an action would do: the count, and three examples before and after. */
  @Post('preview')
  @HttpCode(200)
  async preview(
    @ByHand() writing: WriteContext,
    @CheckedBody(request) body: CheckedAs<typeof request>,
  ): Promise<BulkPreview> {
    return this.bulk.preview(writing, await this.withQuestion(body));
  }

  /** Applies an action to all records of a selection; the answer is the job, which may have ended already. */
  @Post()
  @HttpCode(200)
  async run(
    @ByHand() writing: WriteContext,
    @CheckedBody(request) body: CheckedAs<typeof request>,
  ): Promise<Job> {
    return this.bulk.run(writing, await this.withQuestion(body));
  }

  private async withQuestion(asked: BulkRequest): Promise<BulkRequest> {
    const { selection, object } = asked;
    if (!('question' in selection)) return asked;
    return {
      ...asked,
      selection: { ...selection, question: await this.questions.checkedFor(object, selection.question) },
    };
  }
}
