import { digestText, nextAt } from '.';

const NOTHING = { overdue: [], today: [], done: [], byOthers: [] };
const line = (name: string, more = {}) => ({ name, dueOn: '2026-11-20', dueAt: null, ...more });

describe('a digest', () => {
  it('tells what is due, what was done, and what others did, each counted', () => {
    expect(
      digestText({
        overdue: [line('Ring back', { dueOn: '2026-11-18' })],
        today: [line('Visit', { dueAt: '10:00' }), line('Write')],
        done: [line('Ask')],
        byOthers: [line('Send', { by: 'Lars Westerholt' })],
      }),
    ).toEqual({
      subject: 'Your day: 2 due today, 1 overdue',
      text: [
        'Overdue: 1\n- Ring back (due 2026-11-18)',
        'Due today: 2\n- 10:00 Visit\n- Write',
        'Done since yesterday: 1\n- Ask',
        'Done by others for you: 1\n- Send (Lars Westerholt)',
      ].join('\n\n'),
    });
  });

  it('is none where there is nothing, and never endless', () => {
    expect(digestText(NOTHING)).toBeUndefined();
    const many = Array.from({ length: 500 }, (_, at) => line(`Task ${at}`));
    const { text = '' } = digestText({ ...NOTHING, today: many }) ?? {};
    expect(text.split('\n')).toHaveLength(22);
    expect(text).toContain('and 480 more');
  });

  it.each([
    ['07:30', 'Europe/London', '2026-11-20T07:29:00.000Z', '2026-11-20T07:30:00.000Z'],
    ['07:30', 'Europe/London', '2026-11-20T07:30:00.000Z', '2026-11-21T07:30:00.000Z'],
    ['07:30', 'Pacific/Auckland', '2026-11-20T07:29:00.000Z', '2026-11-20T18:30:00.000Z'],
    // The clocks go forward in the night.
    ['07:30', 'Europe/Oslo', '2027-03-27T12:00:00.000Z', '2027-03-28T05:30:00.000Z'],
  ])('at %s in %s after %s comes at %s', (time, zone, now, at) => {
    expect(nextAt(time, zone, now)).toBe(at);
  });
});
