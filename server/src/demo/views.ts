import { addDays, plainDesign, type Condition, type Day, type Design, type ObjectKey } from '@zawn/core';
import { type Book } from './book';

const open: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };

const saved: { by: string; name: string; sharing: 'private' | 'team' | 'everyone'; design: Design }[] = [
  {
    by: 'Bram Tideswell',
    name: 'Contracts that end within 90 days',
    sharing: 'everyone',
    design: {
      ...plainDesign('account', {
        field: 'x_serviceUntil',
        is: 'between',
        value: [{ days: 0 }, { days: 90 }],
      }),
      question: {
        version: 1,
        object: 'account',
        where: { field: 'x_serviceUntil', is: 'between', value: [{ days: 0 }, { days: 90 }] },
        columns: ['name', 'x_serviceUntil', 'x_stations', 'city', 'country', 'owner'],
        sort: [{ field: 'x_serviceUntil' }],
      },
    },
  },
  {
    by: 'Maren Ollerby',
    name: 'Large and adrift',
    sharing: 'team',
    design: plainDesign('deal', {
      join: 'all',
      of: [
        open,
        { field: 'value', is: 'atLeast', value: 2_500_000 },
        { related: 'activity.deal', where: { field: 'doneAt', is: 'isEmpty' }, is: 'is', value: 0 },
      ],
    }),
  },
  {
    by: 'Tamsin Rudd',
    name: 'My tenders',
    sharing: 'private',
    design: plainDesign('deal', {
      join: 'all',
      of: [
        open,
        { field: 'owner', is: 'anyOf', value: ['@me'] },
        {
          join: 'any',
          of: [
            { field: 'tags', is: 'anyOf', value: ['public tender'] },
            { field: 'source', is: 'anyOf', value: ['tender'] },
          ],
        },
      ],
    }),
  },
];

interface SavedList {
  by: string;
  name: string;
  object: ObjectKey;
  sharing: 'private' | 'team' | 'everyone';
  /** Which records are on it. */
  picks: (row: Record<string, unknown>) => boolean;
}

const lists: SavedList[] = [
  {
    by: 'Bram Tideswell',
    name: 'Reference sites',
    object: 'account',
    sharing: 'everyone',
    picks: ({ tags }) => String(tags).includes('"reference"'),
  },
  {
    by: 'Maren Ollerby',
    name: 'Invited to the open day',
    object: 'contact',
    sharing: 'team',
    picks: ({ id, custom }) => Number(id) % 23 === 0 && String(custom).includes('"en"'),
  },
];

/** The views and lists that people of the demo company saved. */
export function saveViews(book: Book, today: Day): void {
  const at = `${addDays(today, -40)}T09:00:00.000Z`;
  const person = (name: string) => {
    const row = book.rows('person').find((each) => each.name === name);
    if (!row) throw new Error(`Nobody is called ${name}`);
    return { id: Number(row.id), team: Number(row.team) };
  };
  for (const { by, name, sharing, design } of saved) {
    const { id: owner, team } = person(by);
    const row = { name, object: design.question.object, design: JSON.stringify(design), sharing };
    book.create('view', { at, person: owner }, { ...row, team: sharing === 'team' ? team : null, owner });
  }
  for (const { by, name, object, sharing, picks } of lists) {
    const { id: owner, team } = person(by);
    const row = { name, object, sharing, team: sharing === 'team' ? team : null, owner };
    const list = book.create('list', { at, person: owner }, row);
    for (const each of book.rows(object))
      if (picks(each)) book.put('listMember', { list, record: Number(each.id) });
  }
}
