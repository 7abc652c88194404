import { addWorkingDays, dayOff, isOpen, workingDaysBetween } from '../../platform/time';
import { hoursFault, workingCalendar } from './working-calendar';

const times = {
  organisation: { workingDays: ['mon', 'tue', 'wed', 'thu', 'fri'], opens: '09:00', closes: '17:30' },
  teams: [
    { id: 1, parent: null, opens: '08:00', closes: '16:00' },
    { id: 2, parent: 1, workingDays: ['sat', 'sun'] },
    { id: 3, parent: null },
  ],
  holidays: [
    { day: '2026-12-25', name: 'Christmas Day' },
    { day: '2026-12-28', name: 'Harbour closed', team: 1 },
  ],
};

describe('when somebody works', () => {
  it('is by their own hours, else their team’s or those above it, else the organisation’s', () => {
    expect(workingCalendar(times, 3)).toMatchObject({ opens: '09:00', closes: '17:30' });
    expect(workingCalendar(times, 2)).toMatchObject({ opens: '08:00', workingDays: ['sat', 'sun'] });
    expect(
      workingCalendar(times, 2, { workingDays: ['mon'], opens: '10:00', closes: '12:00' }),
    ).toMatchObject({
      opens: '10:00',
      closes: '12:00',
      workingDays: ['mon'],
    });
    // The opening of one and the closing of another are no hours.
    expect(workingCalendar(times, 2, { opens: '10:00' })).toMatchObject({ opens: '08:00', closes: '16:00' });
    const nothing = { organisation: {}, teams: [], holidays: [] };
    expect(workingCalendar(nothing, null)).toMatchObject({ opens: '09:00', closes: '17:00' });
  });

  it('is on no holiday of everybody’s or of their teams', () => {
    const [harbour, others] = [workingCalendar(times, 1), workingCalendar(times, 3)];
    expect(dayOff(others, '2026-12-25')).toBe('Christmas Day');
    expect(dayOff(others, '2026-12-26')).toBe('');
    expect([dayOff(harbour, '2026-12-28'), dayOff(others, '2026-12-28')]).toEqual([
      'Harbour closed',
      undefined,
    ]);
    // Thursday the 24th, then Friday a holiday, a weekend, Monday a holiday of the team.
    expect(addWorkingDays(harbour, '2026-12-24', 1)).toBe('2026-12-29');
    expect(addWorkingDays(others, '2026-12-24', 1)).toBe('2026-12-28');
    expect(addWorkingDays(others, '2026-12-28', -1)).toBe('2026-12-24');
    expect(addWorkingDays(others, '2026-12-26', 0)).toBe('2026-12-28');
    expect(workingDaysBetween(others, '2026-12-21', '2026-12-29')).toBe(5);
    const never = workingCalendar({ ...times, organisation: { workingDays: [] } }, null);
    expect(() => addWorkingDays(never, '2026-12-24', 1)).toThrow('no working day');
  });

  it('is from the opening to before the closing', () => {
    const calendar = workingCalendar(times, 3);
    const at = ['08:59', '09:00', '17:29', '17:30'].map((time) => isOpen(calendar, '2026-12-24', time));
    expect(at).toEqual([false, true, true, false]);
    expect(isOpen(calendar, '2026-12-25', '12:00')).toBe(false);
  });

  it('ends after it begins, and says both', () => {
    expect(hoursFault({ opens: '09:00', closes: '17:00' })).toBeUndefined();
    expect(hoursFault({})).toBeUndefined();
    expect(hoursFault({ opens: '09:00' })).toContain('say both');
    expect(hoursFault({ opens: '17:00', closes: '09:00' })).toContain('end after');
    expect(hoursFault({ workingDays: [] })).toContain('choose one');
  });
});
