import { countsInWords, actionInWords, bucketInWords, bucketsBeside } from './outcomes';

const counts = {
  create: 0,
  maybe: 0,
  update: 0,
  same: 0,
  skip: 0,
  refuse: 0,
  others: {},
  alike: 0,
  noted: 0,
};

describe('what an import does, in words', () => {
  it('says exactly what the button will do', () => {
    expect(actionInWords({ ...counts, create: 4212, update: 388 })).toBe('Create 4,212, update 388');
    expect(actionInWords({ ...counts, create: 2, maybe: 1 })).toBe('Create 3');
    expect(actionInWords({ ...counts, update: 1 })).toBe('Update 1');
    expect(actionInWords({ ...counts, others: { account: { create: 0, update: 2 } } })).toBe(
      'Update 2 accounts',
    );
    expect(actionInWords(counts)).toBe('Nothing to write');
  });

  it('calls a bucket by what is to happen, and afterwards by what happened', () => {
    expect(bucketInWords({ object: 'lead', outcome: 'create' }, 'lead')).toBe('to create');
    expect(bucketInWords({ object: 'lead', outcome: 'create' }, 'lead', 'done')).toBe('created');
    const others = { account: { create: 3, update: 0 }, contact: { create: 0, update: 2 } };
    const beside = bucketsBeside({ ...counts, others });
    expect(beside.map(({ count }) => count)).toEqual([3, 2]);
    expect(beside.map(({ bucket }) => bucketInWords(bucket, 'deal', 'done'))).toEqual([
      'accounts created with them',
      'contacts updated with them',
    ]);
  });

  it('says of accounts beside the rows whether they may be on file, or were taken for one', () => {
    const others = { account: { create: 2, maybe: 3, same: 4 } };
    const beside = bucketsBeside({ ...counts, others });
    expect(beside.map(({ bucket, count }) => `${count} ${bucketInWords(bucket, 'contact')}`)).toEqual([
      '2 accounts to create with them',
      '3 accounts to create with them, perhaps on file',
      '4 accounts taken as the same as another',
    ]);
    expect(actionInWords({ ...counts, others })).toBe('Create 5 accounts');
  });

  it('names only what there is', () => {
    const others = { account: { create: 3, update: 0 } };
    expect(countsInWords({ ...counts, create: 10, refuse: 2, others })).toBe(
      '10 created, 3 accounts with them, 2 refused',
    );
    expect(countsInWords({ ...counts, create: 1, maybe: 1, noted: 1 })).toBe(
      '2 created, 1 with a cell left empty',
    );
    expect(countsInWords(counts)).toBe('nothing written');
  });
});
