import { keptSteps, NO_DETAILS, writtenDetails } from './task-details';

describe('the details of a task', () => {
  it('keep steps that say something, in their order and with their ids', () => {
    const steps = [
      { id: 4, name: ' Print ', done: true },
      { name: '  ', done: false },
      { name: 'Post', done: false },
    ];
    expect(keptSteps(steps)).toEqual([
      { id: 4, name: 'Print', done: true },
      { name: 'Post', done: false },
    ]);
  });

  it('name one record each, and nothing where nothing was said', () => {
    const alsoAbout = [{ object: 'contact' as const, id: 3, name: 'Thea Ashwick' }];
    expect(writtenDetails({ ...NO_DETAILS, place: ' Quay 2 ', description: ' ', alsoAbout })).toEqual({
      priority: null,
      description: null,
      place: 'Quay 2',
      checklist: [],
      alsoAbout: [{ lead: null, contact: 3, account: null, deal: null }],
    });
  });
});
