import { decisionGap, decisionGapInWords } from '.';

const when = { today: '2026-11-19', timeZone: 'Europe/London' };
const member = (role: string, lastTouchAt: string | null, name = 'Ada Brandt') => ({
  name,
  role,
  lastTouchAt,
});
const words = (...members: ReturnType<typeof member>[]) => {
  const gap = decisionGap(members, when);
  return gap && decisionGapInWords(gap);
};

describe('who decides', () => {
  it('is missed where nobody is named, whoever else is', () => {
    expect(words()).toBe('Nobody who decides is named.');
    expect(words(member('pays', '2026-11-18T09:00:00Z'))).toBe('Nobody who decides is named.');
  });

  it('is to be spoken to now and then', () => {
    expect(words(member('decides', null))).toBe('Ada Brandt, who decides, was never spoken to.');
    expect(words(member('decides', '2026-10-03T09:00:00Z'))).toBe(
      'Ada Brandt, who decides, was last spoken to 47 days ago.',
    );
    expect(words(member('decides', '2026-10-20T09:00:00Z'))).toBeUndefined();
  });

  it('may be several, of whom one lately is enough', () => {
    expect(
      words(member('decides', null), member('decides', '2026-11-10T09:00:00Z', 'Per Sund')),
    ).toBeUndefined();
    expect(
      words(member('decides', '2026-01-01T09:00:00Z'), member('decides', '2026-09-30T23:30:00Z', 'Per Sund')),
      // In London it was October already.
    ).toBe('Per Sund, who decides, was last spoken to 49 days ago.');
  });
});
