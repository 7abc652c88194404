import { Injectable } from '@nestjs/common';
import { In, type EntityManager } from 'typeorm';
import { type ObjectKey } from '@zawn/core';
import { type ListMemberRow } from '../../platform/database/rows';

/** Records looked at in one statement. */
const SLICE = 5000;

/** Who is on which list. Changed only by the door, within its unit. */
@Injectable()
export class ListMembers {
  /** Puts records on a list or takes them off. Returns those that were not so already. */
  async change(
    manager: EntityManager,
    list: number,
    ids: readonly number[],
    how: 'added' | 'taken',
  ): Promise<number[]> {
    const changed: number[] = [];
    for (let from = 0; from < ids.length; from += SLICE) {
      const slice = [...new Set(ids.slice(from, from + SLICE))];
      const there = await manager.findBy<ListMemberRow>('listMember', { list, record: In(slice) });
      const on = new Set(there.map(({ record }) => record));
      const meant = slice.filter((id) => on.has(id) === (how === 'taken'));
      if (how === 'taken') await manager.delete('listMember', { list, record: In(meant) });
      else if (meant.length > 0)
        await manager.insert(
          'listMember',
          meant.map((record) => ({ list, record })),
        );
      changed.push(...meant);
    }
    return changed;
  }

  /** The lists of an object’s records that one is on, whoever’s they are. */
  async listsWith(manager: EntityManager, object: ObjectKey, record: number): Promise<number[]> {
    const rows = await manager
      .createQueryBuilder()
      .select('m.list', 'list')
      .from('listMember', 'm')
      .innerJoin('list', 'l', 'l.id = m.list')
      .where('m.record = :record AND l.object = :object', { record, object })
      .getRawMany<{ list: number }>();
    return rows.map(({ list }) => list);
  }
}
