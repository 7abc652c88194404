import { heldMoveIn, heldMovePart } from '.';

describe('a move that is held up', () => {
  it.each([{ to: '12' }, { to: '12', closeOn: '2026-12-01' }, { to: 'in-talks_2' }])(
    'comes back from the address as %j',
    ({ to, closeOn }: { to: string; closeOn?: string }) => {
      expect(heldMoveIn(heldMovePart(to, closeOn))).toEqual({ to, ...(closeOn ? { closeOn } : {}) });
    },
  );

  it.each([undefined, 'close', 'to', 'to.', 'to.1.soon', 'to.1.2026-12-01.x', 'other.12', 'to.a b'])(
    'is not %j',
    (part) => {
      expect(heldMoveIn(part)).toBeUndefined();
    },
  );
});
