import { builtIn, workingCalendar, type TaskDefaults } from '@zawn/core';
import { sayPlan } from './say-plan';

type Session = Parameters<typeof sayPlan>[1];

const people = [
  { id: 1, name: 'Tamsin Rudd', active: true },
  { id: 2, name: 'Ewan Castellin', active: true },
  { id: 3, name: 'Gone Long', active: false },
];
const said = (text: string, taskDefaults?: TaskDefaults, may = true) =>
  sayPlan(text, {
    catalogue: builtIn,
    today: '2026-11-23',
    calendar: workingCalendar({ organisation: {}, teams: [], holidays: [] }, null),
    me: people[0],
    person: (id: number) => people.find((each) => each.id === id),
    policy: { allows: () => may },
    preferences: { taskDefaults },
  } as unknown as Session);

describe('a plan said in one line', () => {
  it('is one’s own, with whoever it names', () => {
    const plan = said('call Thea Thu 10:00');
    expect(plan?.label('Thea Quill')).toBe('Call with Thea Quill, Thu 26 Nov 10:00');
    expect(plan?.write({ object: 'contact', id: 7 }).body).toEqual({
      name: 'Call',
      kind: 'call',
      owner: 1,
      priority: null,
      description: null,
      dueOn: '2026-11-26',
      dueAt: '10:00',
      contact: 7,
    });
  });

  it('begins as one’s new tasks do, and says so before it is written', () => {
    const plan = said('call Thea Thu 10:00', { owner: 2, priority: 'high', description: 'Ask for papers' });
    expect(plan?.label('Thea Quill')).toBe(
      'Call with Thea Quill, Thu 26 Nov 10:00, for Ewan Castellin, high priority',
    );
    expect(plan?.write({ object: 'lead', id: 7 }).body).toMatchObject({
      owner: 2,
      priority: 'high',
      description: 'Ask for papers',
      lead: 7,
    });
    expect(said('call Thea Thu 10:00', { owner: 3 })?.label('Thea')).not.toContain('Gone');
  });

  it('is none where nothing may be planned, and unclear where the time is none', () => {
    expect(said('call Thea Thu 10:00', undefined, false)).toBeUndefined();
    expect(said('call Thea Thu 25:00')?.unclear).toBe('“Thu 25:00” is no day or time');
  });
});
