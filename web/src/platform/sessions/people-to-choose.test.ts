import { peopleToChoose } from './people-to-choose';

const people = [
  { id: 1, name: 'Ada Holm', active: true },
  { id: 2, name: 'Bo Lind', active: false },
  { id: 3, name: 'Cai Moor', active: false },
];

describe('people to choose from', () => {
  it('are those who are here', () => {
    expect(peopleToChoose(people)).toEqual([{ value: 1, label: 'Ada Holm' }]);
  });

  it('hold whoever is chosen already by name, never a number', () => {
    expect(peopleToChoose(people, 2, null)).toEqual([
      { value: 1, label: 'Ada Holm' },
      { value: 2, label: 'Bo Lind, left' },
    ]);
  });
});
