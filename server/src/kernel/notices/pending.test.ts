import { type AnyRecord } from '@zawn/core';
import { tellings, type Pending } from './pending';

const lead = (id: number, more: object = {}): Pending => ({
  person: 7,
  kind: 'leadArrived',
  object: 'lead',
  record: {
    id,
    name: `Runa ${id}`,
    organisation: 'Trust',
    phone: '+441632960001',
    ...more,
  } as unknown as AnyRecord,
});

describe('what a person is told', () => {
  it('holds all that is needed to call back', () => {
    expect(tellings([lead(1)], 'Bram')).toEqual([
      {
        person: 7,
        kind: 'leadArrived',
        text: 'New lead: Runa 1, Trust · +441632960001',
        path: '/leads?open=lead-1',
      },
    ]);
  });

  it('is one thing when it is much', () => {
    const many = Array.from({ length: 1200 }, (_, id) => lead(id));
    expect(tellings(many, 'Bram')).toEqual([
      { person: 7, kind: 'leadArrived', text: '1,200 leads are new and yours', path: '/leads' },
    ]);
  });

  it('says who handed what over, each to whom it is', () => {
    const handed = { ...lead(1), kind: 'handedOver' as const };
    expect(
      tellings([handed, { ...handed, person: 8 }], 'Bram').map(({ person, text }) => [person, text]),
    ).toEqual([
      [7, 'Bram handed you the lead Runa 1'],
      [8, 'Bram handed you the lead Runa 1'],
    ]);
  });
});
