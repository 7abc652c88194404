import { Controller, Get, Param } from '@nestjs/common';
import {
  ask,
  rollUp,
  type AccountGroup,
  type Actor,
  type AnyRecord,
  type Condition,
  type Node,
} from '@zawn/core';
import { recordId } from '../http/record-id';
import { Gate } from '../questions/gate';
import { Asking } from '../sessions/asking';

/** Levels of a group that are looked down; deeper ones are taken for a mistake. */
const DEEPEST = 12;
/** Accounts of a group that are looked at. */
const MOST = 1000;

/** The group an account belongs to: what stands above it and below it, with its deals rolled up. */
@Controller('api/v1/accounts/:id/group')
export class GroupController {
  constructor(private readonly gate: Gate) {}

  @Get()
  async group(@Asking() actor: Actor, @Param('id') id: string): Promise<AccountGroup> {
    const top = await this.gate.find(actor, 'account', recordId(id));
    const accounts = await this.below(actor, top);
    const nodes = accounts.map(({ id: account, parent }): Node => ({
      id: account,
      parent: account === top.id ? null : Number(parent),
    }));
    const ids = accounts.map((account) => account.id);
    const sums = async (outcome: string) => {
      const of: Condition[] = [
        { field: 'account', is: 'anyOf', value: ids },
        { field: 'outcome', is: 'anyOf', value: [outcome] },
      ];
      const question = {
        ...ask('deal', ...of),
        groups: [{ field: 'account' }],
        measures: [{ as: 'sum' as const, of: 'value' }],
      };
      const { rows } = await this.gate.figures(actor, question);
      return rollUp(nodes, new Map(rows.map(({ keys, figures }) => [Number(keys[0]), figures[0] ?? 0])));
    };
    const [won, open] = await Promise.all([sums('won'), sums('open')]);
    return {
      accounts: accounts.map((account) => ({
        id: account.id,
        name: String(account.name),
        parent: account.id === top.id ? null : Number(account.parent),
        won: won.get(account.id) ?? 0,
        open: open.get(account.id) ?? 0,
      })),
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
