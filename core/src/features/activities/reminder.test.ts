import { reminderOf } from './reminder';

const planned = { dueOn: '2026-11-20', dueAt: '15:00', doneAt: null };

describe('a reminder', () => {
  it('is so many minutes before, and of use for an hour after', () => {
    expect(reminderOf(planned, 10, 'Europe/London')).toEqual({
      at: '2026-11-20T14:50:00.000Z',
      until: '2026-11-20T16:00:00.000Z',
    });
    expect(reminderOf(planned, 0, 'Europe/London')?.at).toBe('2026-11-20T15:00:00.000Z');
    expect(reminderOf({ ...planned, dueAt: '00:05' }, 1440, 'Europe/London')?.at).toBe(
      '2026-11-19T00:05:00.000Z',
    );
  });

  it.each([
    // Clocks go forward at two on this day, and back at three on that.
    ['2026-03-29', '01:30', 'Europe/Oslo', '2026-03-29T00:30:00.000Z'],
    ['2026-03-29', '03:30', 'Europe/Oslo', '2026-03-29T01:30:00.000Z'],
    ['2026-10-25', '01:30', 'Europe/Oslo', '2026-10-24T23:30:00.000Z'],
    ['2026-10-25', '03:30', 'Europe/Oslo', '2026-10-25T02:30:00.000Z'],
    ['2026-11-20', '09:00', 'Pacific/Auckland', '2026-11-19T20:00:00.000Z'],
  ])('on %s at %s goes by the clocks of %s', (dueOn, dueAt, timeZone, at) => {
    expect(reminderOf({ dueOn, dueAt, doneAt: null }, 0, timeZone)?.at).toBe(at);
  });

  it('is none for what is done, or has no time', () => {
    expect(
      reminderOf({ ...planned, doneAt: '2026-11-19T10:00:00.000Z' }, 10, 'Europe/London'),
    ).toBeUndefined();
    expect(reminderOf({ ...planned, dueAt: null }, 10, 'Europe/London')).toBeUndefined();
  });
});
