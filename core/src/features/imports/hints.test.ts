import { guessSetup, readDelimited, remediesFor, setupFrom, type Refusal } from '.';
import { builtIn } from '../../kernel/catalogue';

const table = readDelimited(
  'First;Last;Email;Budget\nRuna;Seagrave;runa(at)x;many\nPer;Holm;per@x.example;3\n',
);
const setup = setupFrom(guessSetup(builtIn, 'lead', table), 'lead', 1);
const refusal = (column: number | null): Refusal => ({ row: 2, column, reason: 'cannot be read' });

describe('choices that would let refused rows in', () => {
  it('are none where nothing is refused, or nothing can be done', () => {
    expect(remediesFor(builtIn, table, setup, [])).toEqual([]);
    expect(remediesFor(builtIn, table, setup, [refusal(null)])).toEqual([]);
  });

  it('join the parts of a name that were left out', () => {
    const without = { ...setup, columns: [null, null, 'email', 'budget'] };
    expect(remediesFor(builtIn, table, without, [refusal(null)])).toEqual([
      { words: 'Join “First” and “Last” into Name', setup: { columns: ['name', 'name', 'email', 'budget'] } },
    ]);
  });

  it('leave cells empty that keep their rows out and need not', () => {
    const strict = { ...setup, bad: { budget: 'refuse' as const } };
    expect(remediesFor(builtIn, table, strict, [refusal(3), refusal(3), refusal(2)])).toEqual([
      {
        words: 'Leave “Budget” empty where it cannot be read',
        setup: { bad: { budget: 'empty' } },
      },
      {
        words: 'Leave “Email” empty where it cannot be read',
        setup: { bad: { budget: 'refuse', email: 'empty' } },
      },
    ]);
  });
});
