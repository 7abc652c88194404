import { heldMoveIn, partOf } from './held-move';

describe('a move that is held up', () => {
  it.each([{ stage: 12 }, { stage: 12, closeOn: '2026-12-01' }])(
    'comes back from the address as %j',
    (move) => {
      expect(heldMoveIn(partOf(move))).toEqual(move);
    },
  );

  it.each([undefined, 'close', 'to', 'to.x', 'to.', 'other.12'])('is not %j', (part) => {
    expect(heldMoveIn(part)).toBeUndefined();
  });
});
