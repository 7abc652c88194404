import { builtIn, fieldAt } from '../catalogue';
import { checkDesign } from '../validation';
import { type Condition, type Question } from '../questions';
import {
  combined,
  designOf,
  figuresIn,
  plainDesign,
  reachablePaths,
  readyMade,
  recordsIn,
  sameDesign,
  type Design,
} from '.';

const open: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };
const mine: Condition = { field: 'owner', is: 'anyOf', value: ['@me'] };
const deals = (where?: Condition): Question => ({ version: 1, object: 'deal', ...(where ? { where } : {}) });

describe('a design', () => {
  const design: Design = {
    question: {
      ...deals(open),
      columns: ['name', 'value'],
      sort: [{ field: 'closeOn', descending: true }, { field: 'value' }],
      groups: [{ field: 'closeOn', by: 'month' }, { field: 'owner' }],
      measures: [{ as: 'sum', of: 'value' }],
    },
    draw: 'table',
  };

  it('asks for the records of one group together, in the order of the groups', () => {
    expect(recordsIn(design).sort).toEqual([
      { field: 'closeOn', by: 'month', descending: true },
      { field: 'owner' },
      { field: 'closeOn', descending: true },
      { field: 'value' },
    ]);
    expect(recordsIn(design).groups).toBeUndefined();
  });

  it('asks for the figures on the heads of its groups, the count first', () => {
    expect(figuresIn(design, 1)).toEqual({
      ...deals(open),
      groups: [{ field: 'closeOn', by: 'month' }],
      measures: [{ as: 'count' }, { as: 'sum', of: 'value' }],
    });
  });

  it('is the same in whatever order its parts are written', () => {
    const other = JSON.parse(JSON.stringify({ draw: 'table', question: design.question })) as Design;
    expect(sameDesign(design, other)).toBe(true);
    expect(sameDesign(design, { ...other, draw: 'bars' })).toBe(false);
  });

  it('that cannot be read is none', () => {
    expect(designOf({ object: 'deal', design: '{"question":' })).toBeUndefined();
    expect(designOf({ object: 'lead', design: JSON.stringify(design) })).toBeUndefined();
    expect(designOf({ object: 'deal', design: JSON.stringify(design) })).toEqual(design);
  });

  it('begins with columns and an order that exist', () => {
    for (const object of ['lead', 'contact', 'account', 'deal', 'activity'] as const) {
      const { columns = [], sort = [] } = plainDesign(object).question;
      const paths = [...columns, ...sort.map(({ field }) => field), ...reachablePaths(builtIn, object)];
      for (const path of paths)
        expect([path, fieldAt(builtIn, object, path) !== undefined]).toEqual([path, true]);
    }
  });
});

describe('a result', () => {
  it('is widened, narrowed or replaced by another question’s', () => {
    expect(combined(deals(open), deals(mine), 'widen').where).toEqual({ join: 'any', of: [open, mine] });
    expect(combined(deals(open), deals(mine), 'narrow').where).toEqual({ join: 'all', of: [open, mine] });
    expect(combined(deals(open), deals(mine), 'replace').where).toEqual(mine);
  });

  it('widened by everything is everything', () => {
    expect(combined(deals(open), deals(), 'widen')).toEqual(deals());
    expect(combined(deals(open), deals(), 'narrow')).toEqual(deals(open));
  });
});

describe('ready-made views', () => {
  it.each(readyMade.map((view) => [view.name, view] as const))(
    '“%s” is a design that can be asked',
    (_, view) => {
      expect(checkDesign(view.design, builtIn).faults).toEqual([]);
      expect(view.design.question.object).toBe(view.object);
    },
  );

  it('have keys of their own', () => {
    expect(new Set(readyMade.map(({ key }) => key)).size).toBe(readyMade.length);
  });
});
