import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import {
  mergeKinds,
  type Actor,
  type AnyRecord,
  type DuplicatesPage,
  type MergeField,
  type MergeKind,
  type MergePreview,
  type Written,
} from '@zawn/core';
import { CheckedBody, CheckedQuery, type CheckedAs } from '../../platform/http/checked';
import { type WriteContext } from '../../kernel/records/door';
import { May } from '../../platform/sessions/may';
import { CurrentActor, Once, Version } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { Duplicates, type Judgement } from './duplicates';
import { Merging } from './merging';
import { ForPrograms } from '../../platform/sessions/scopes';
import { type Asked } from '../../platform/database/once';

const kind = Joi.string()
  .valid(...mergeKinds)
  .required();
const id = Joi.number().integer().positive().required();
const asking = Joi.object<{ object: MergeKind; cursor?: string }>({
  object: kind,
  cursor: Joi.string().pattern(/^\d{1,3}(-\d{1,15}){2}$/),
});
const judging = Joi.object<Judgement>({
  object: kind,
  ids: Joi.array().items(id).length(2).required(),
  verdict: Joi.string().valid('different').allow(null).required(),
});
const looking = Joi.object<{ object: MergeKind }>({ object: kind });
const comparing = Joi.object<{ object: MergeKind; survivor: number; other: number }>({
  object: kind,
  survivor: id,
  other: id,
});
const merging = Joi.object<{
  object: MergeKind;
  survivor: number;
  other: number;
  take: Record<string, MergeField['proposed']>;
}>({
  object: kind,
  survivor: id,
  other: id,
  take: Joi.object()
    .pattern(Joi.string().max(60), Joi.valid('survivor', 'other', 'both'))
    .default({}),
});

@ForPrograms()
@Controller('api/v1/duplicates')
export class DuplicatesController {
  constructor(
    private readonly duplicates: Duplicates,
    private readonly merging: Merging,
  ) {}

  /** Probable pairs, the likeliest first. */
  @Get()
  page(
    @CurrentActor() actor: Actor,
    @CheckedQuery(asking) { object, cursor }: CheckedAs<typeof asking>,
  ): Promise<DuplicatesPage> {
    return this.duplicates.page(actor, object, cursor);
  }

  /** Looks for pairs anew. */
  @May('mergeRecords', 'Your role does not let you look after duplicates.')
  @Post('look')
  @HttpCode(200)
  async look(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @CheckedBody(looking) { object }: CheckedAs<typeof looking>,
  ): Promise<DuplicatesPage> {
    await this.duplicates.look(object, asked);
    return this.duplicates.page(actor, object);
  }

  /** Says that two are not the same, or takes that back. */
  @May('mergeRecords', 'Your role does not let you look after duplicates.')
  @Post('verdicts')
  @HttpCode(200)
  async judge(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @CheckedBody(judging) judgement: CheckedAs<typeof judging>,
  ): Promise<object> {
    await this.duplicates.judge(actor, judgement, asked);
    return {};
  }

  /** What a merge would make of two records, field by field. Nothing is written. */
  @Post('preview')
  @HttpCode(200)
  preview(
    @CurrentActor() actor: Actor,
    @CheckedBody(comparing) { object, survivor, other }: CheckedAs<typeof comparing>,
  ): Promise<MergePreview> {
    return this.merging.preview(actor, object, survivor, other);
  }

  /** Merges two records; the version is the survivor's. */
  @Post('merge')
  @HttpCode(200)
  merge(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @CheckedBody(merging) { object, take, ...ids }: CheckedAs<typeof merging>,
  ): Promise<Written<AnyRecord>> {
    return this.merging.merge(writing, object, { ...ids, version }, take);
  }
}
