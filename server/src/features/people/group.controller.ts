import { Controller, Get } from '@nestjs/common';
import {
  ask,
  GROUP_DAYS,
  rollUp,
  rollUpBy,
  type AccountGroup,
  type Actor,
  type AnyRecord,
  type Condition,
  type Measure,
  type Node,
  type RelativeSpan,
} from '@zawn/core';
import { RecordId } from '../../platform/http/checked';
import { Gate } from '../../kernel/questions/gate';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForPrograms } from '../../platform/sessions/scopes';

/** Levels of a group that are looked down; deeper ones are taken for a mistake. */
const DEEPEST = 12;
/** Accounts of a group that are looked at. */
const MOST = 1000;

/** The group an account belongs to: what stands above it and below it, with its deals rolled up. */
@ForPrograms()
@Controller('api/v1/accounts/:id/group')
export class GroupController {
  constructor(private readonly gate: Gate) {}

  /** An account and those below it, each with its deals and work, and those of all below it, together. */
  @Get()
  async group(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<AccountGroup> {
    const top = await this.gate.find(actor, 'account', id);
    const accounts = await this.below(actor, top);
    const nodes = accounts.map(({ id: account, parent }): Node => ({
      id: account,
      parent: account === top.id ? null : Number(parent),
    }));
    const ids = accounts.map((account) => account.id);
    const figure = async (object: 'deal' | 'activity', measure: Measure, ...which: Condition[]) => {
      const of: Condition = { field: 'account', is: 'anyOf', value: ids };
      const question = { ...ask(object, of, ...which), groups: [{ field: 'account' }], measures: [measure] };
      const { rows, unrated } = await this.gate.figures(actor, question);
      const own = new Map(rows.map(({ keys, figures }) => [Number(keys[0]), figures[0] ?? 0]));
      return { at: rollUp(nodes, own), unrated };
    };
    const value: Measure = { as: 'sum', of: 'value' };
    const outcome = (is: string): Condition => ({ field: 'outcome', is: 'anyOf', value: [is] });
    const lately: RelativeSpan = { direction: 'last', count: GROUP_DAYS, unit: 'day' };
    const [won, open, done] = await Promise.all([
      figure('deal', value, outcome('won')),
      figure('deal', value, outcome('open')),
      figure('activity', { as: 'count' }, { field: 'doneAt', is: 'in', value: lately }),
    ]);
    const touched = accounts.flatMap((account): [number, string][] =>
      account.lastTouchAt === null ? [] : [[account.id, String(account.lastTouchAt)]],
    );
    const lastTouch = rollUpBy(nodes, new Map(touched), (a, b) => (a > b ? a : b));
    return {
      accounts: accounts.map((account) => ({
        id: account.id,
        name: String(account.name),
        parent: account.id === top.id ? null : Number(account.parent),
        won: won.at.get(account.id) ?? 0,
        open: open.at.get(account.id) ?? 0,
        done: done.at.get(account.id) ?? 0,
        lastTouchAt: lastTouch.get(account.id) ?? null,
      })),
      unrated: won.unrated + open.unrated,
    };
  }

  /** The account and those below it, level by level, each once. */
  private async below(actor: Actor, top: AnyRecord): Promise<AnyRecord[]> {
    const found = new Map([[top.id, top]]);
    let level = [top.id];
    for (let depth = 0; depth < DEEPEST && level.length > 0 && found.size < MOST; depth += 1) {
      const question = {
        ...ask('account', { field: 'parent', is: 'anyOf', value: level }),
        sort: [{ field: 'name' }],
      };
      const { rows } = await this.gate.records(actor, question, { offset: 0, limit: MOST - found.size });
      const fresh = rows.filter(({ id }) => !found.has(id));
      for (const account of fresh) found.set(account.id, account);
      level = fresh.map(({ id }) => id);
    }
    return [...found.values()];
  }
}
