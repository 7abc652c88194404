import fc from 'fast-check';
import { matchAccounts, matchContacts, nameSimilarity, workDomain } from '.';

describe('name similarity', () => {
  it('sees through case, accents, legal form and word order', () => {
    expect(nameSimilarity('Seagrave Harbour Trust Ltd', 'TRUST, Séagrave Harbour')).toBe(1);
    expect(nameSimilarity('Seagrave Harbour Trust', 'Seagrave Harbor Tr.')).toBeGreaterThan(0.72);
    expect(nameSimilarity('Seagrave Harbour Trust', 'Tolmouth Water')).toBeLessThan(0.4);
    expect(nameSimilarity('', 'Tolmouth')).toBe(0);
  });

  it('is symmetric, between 0 and 1, and 1 for a name with itself', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (a, b) => {
        const alike = nameSimilarity(a, b);
        expect(alike).toBe(nameSimilarity(b, a));
        expect(alike >= 0 && alike <= 1).toBe(true);
      }),
    );
    fc.assert(
      fc.property(
        fc.stringMatching(/^[a-z]{1,12} [a-z]{3,12}$/),
        (name) =>
          nameSimilarity(name, name) >= 0 &&
          (nameSimilarity(name, name) === 1 || name.split(' ').every((word) => word.length < 4)),
      ),
    );
  });
});

describe('matching people', () => {
  const onFile = [
    { id: 1, name: 'Runa Seagrave', email: 'runa@seagrave.example' },
    { id: 2, name: 'Runa Seagraves', email: 'r.seagraves@seagrave.example' },
    { id: 3, name: 'Rune Seagrave', email: 'someone@else.example' },
    { id: 4, name: 'Hamish Carnmoor', email: 'hamish@else.example' },
  ];

  it('puts the same email first and says why', () => {
    const found = matchContacts({ name: 'R. Seagrave', email: 'runa@seagrave.example' }, onFile);
    expect(found[0]).toEqual({ id: 1, likeness: 1, reason: 'Same email' });
  });

  it('offers similar names, those of the same domain before others, and nobody else', () => {
    const found = matchContacts({ name: 'Runa Seagrave', email: 'new@seagrave.example' }, onFile);
    expect(found.map(({ id }) => id)).toEqual([1, 2, 3]);
    expect(found[1].reason).toBe('Same email domain and similar name: Runa Seagrave / Runa Seagraves');
    expect(found[2].reason).toContain('Similar name');
  });

  it('does not take a public mail provider for an employer', () => {
    expect(workDomain('a@webmail.example')).toBeUndefined();
    expect(workDomain('a@seagrave.example')).toBe('seagrave.example');
  });
});

describe('matching organisations', () => {
  const onFile = [
    { id: 1, name: 'Seagrave Harbour Trust', domain: 'seagrave.example' },
    { id: 2, name: 'Seagrave Marina', domain: 'seagrave.example' },
    { id: 3, name: 'Seagrave Harbor Trust', domain: null },
    { id: 4, name: 'Tolmouth Water', domain: 'tolmouth.example' },
  ];

  it('finds the same domain, a similar name, or both, and says which', () => {
    const found = matchAccounts({ name: 'Seagrave Harbor Trust', domain: 'seagrave.example' }, onFile);
    expect(found.map(({ id }) => id)).toEqual([1, 2, 3]);
    expect(found.map(({ reason }) => reason)).toEqual([
      'Same domain and similar name: Seagrave Harbor Trust / Seagrave Harbour Trust',
      'Same domain: seagrave.example',
      'Same name',
    ]);
  });

  it('takes the domain from the mail when there is no website', () => {
    expect(
      matchAccounts({ name: 'The Trust', email: 'x@tolmouth.example' }, onFile).map(({ id }) => id),
    ).toEqual([4]);
  });
});
