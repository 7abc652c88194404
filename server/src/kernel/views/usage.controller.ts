import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { IsNull } from 'typeorm';
import {
  ask,
  canStandFor,
  designOf,
  isGroup,
  isRelated,
  objectType,
  type Actor,
  type Condition,
  type ReplaceAnswer,
  type ReplaceRequest,
  type ListSummary,
  type Usage,
  type View,
  type Written,
} from '@zawn/core';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { invalidInput } from '../../platform/http/problem';
import { Database } from '../../platform/database/database';
import { ByHand } from '../records/by-hand';
import { Door, type WriteContext } from '../records/door';
import { Gate } from '../questions/gate';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForPrograms } from '../../platform/sessions/scopes';
import { Usages } from './usages';

const id = Joi.number().integer().positive().max(9e15).required();
const report = Joi.object({ report: id });
const view = Joi.object({ view: id });

const dashboard = Joi.object({ dashboard: id });
const snapshot = Joi.object({ snapshot: id });
const ready = Joi.object({ ready: Joi.string().max(60).required() });

const insteadRequest = Joi.object<ReplaceRequest>({
  of: Joi.alternatives(report, view, dashboard, snapshot).required(),
  instead: Joi.alternatives(report, view, dashboard, snapshot, ready).required(),
});

/** More views than an organisation keeps. */
const ALL = 2000;

/** Whether a condition asks for a list. */
function asksForList(condition: Condition, list: number): boolean {
  if (isGroup(condition)) return condition.of.some((part) => asksForList(part, list));
  if (isRelated(condition)) return condition.where !== undefined && asksForList(condition.where, list);
  const isLists = condition.field === 'lists' || condition.field.endsWith('.lists');
  return isLists && Array.isArray(condition.value) && (condition.value as number[]).includes(list);
}

/** Who would miss a view or a list, and how long lists are. */
@ForPrograms()
@Controller('api/v1')
export class UsageController {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
    private readonly usages: Usages,
    private readonly door: Door,
  ) {}

  /** How many records are on each list shared with the person. */
  @Get('list-counts')
  async counts(@CurrentActor() actor: Actor): Promise<{ lists: ListSummary[] }> {
    const { rows } = await this.gate.records(actor, ask('list'), { offset: 0, limit: ALL });
    const questions = rows.map(({ id, object }) =>
      this.gate.count(actor, ask(object as View['object'], { field: 'lists', is: 'anyOf', value: [id] })),
    );
    const counts = await Promise.all(questions);
    return { lists: rows.map(({ id }, index) => ({ id, count: counts[index] })) };
  }

  /** Who else uses a view: has it pinned, or begins with it. */
  @Get('views/:id/usage')
  async ofView(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<Usage> {
    const { id: view } = await this.gate.find(actor, 'view', id);
    const shownOn = await this.usages.shownOn(actor, { view });
    const pinned = await this.pinnedBy(actor, `view-${view}`);
    const begun = await this.usages.othersWith(actor, 'defaultViews', (views) =>
      Object.values(views ?? {}).includes(view),
    );
    return { people: [...new Set([...pinned, ...begun])], views: [], shownOn };
  }

  /** Has whatever shows one thing, and is the person's to change, show another of its kind from now on. */
  @Post('usage/instead')
  @HttpCode(200)
  async showInstead(
    @ByHand() writing: WriteContext,
    @CheckedBody(insteadRequest) { of, instead }: CheckedAs<typeof insteadRequest>,
  ): Promise<Written<ReplaceAnswer>> {
    if (!canStandFor(instead, of))
      throw invalidInput([{ field: 'instead', message: 'It is of another kind than what it stands for' }]);
    return this.door.write(writing, async (unit) => {
      for (const shown of [of, instead]) {
        if ('report' in shown) await unit.find('report', shown.report);
        if ('view' in shown) await unit.find('view', shown.view);
        if ('dashboard' in shown) await unit.find('dashboard', shown.dashboard);
        if ('snapshot' in shown) await unit.find('snapshot', shown.snapshot);
      }
      return { changed: await this.usages.showInstead(unit, of, instead) };
    });
  }

  /** Who else uses a list: has it pinned, or asks for it in a view. */
  @Get('lists/:id/usage')
  async ofList(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<Usage> {
    const { id: list } = await this.gate.find(actor, 'list', id);
    // Of views that are not shared with the person, only that there are some is said.
    const all = await this.database.reading.getRepository<View & { deletedAt: string | null }>('view').find();
    const shared = await this.gate.visible(
      actor,
      'view',
      all.map((view) => view.id),
    );
    const views = all
      .filter((view) => view.deletedAt === null)
      .filter((view) => {
        const where = designOf(view)?.question.where;
        return where !== undefined && asksForList(where, list);
      })
      .map((view) => (shared.has(view.id) ? view.name : 'a private view'));
    const rules: string[] = [];
    for (const object of ['assignmentRule', 'scoreRule'] as const)
      for (const rule of await this.database.reading.manager.findBy<{
        name: string;
        condition: string | null;
      }>(object, { deletedAt: IsNull() } as object))
        if (rule.condition && asksForList(JSON.parse(rule.condition) as Condition, list))
          rules.push(`the ${objectType(object).label.toLowerCase()} “${rule.name}”`);
    return { people: await this.pinnedBy(actor, `list-${list}`), views, rules };
  }

  /** The names of the others who pinned something. */
  private pinnedBy(actor: Actor, pin: string): Promise<string[]> {
    return this.usages.othersWith(actor, 'pinned', (pinned) => pinned?.includes(pin) ?? false);
  }
}
