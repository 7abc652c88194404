import fc from 'fast-check';
import { guideProgress, holdsUp, isAnswered, canAsk, itemInWords, type GuideFacts, type GuideItem } from '.';
import { leadSteps } from '../leads';
import { builtIn } from '../../kernel/catalogue';

const blank = { status: null, label: null, field: null, activityKind: null, role: null };
let id = 0;
const item = (kind: GuideItem['kind'], stage: number, more: Partial<GuideItem>): GuideItem => ({
  ...blank,
  id: (id += 1),
  kind,
  stage,
  position: 0,
  needed: true,
  ...more,
});
const tick = item('tick', 1, { label: 'Site plan asked for' });
const value = item('field', 1, { field: 'value', position: 2 });
const town = item('field', 2, { field: 'account.city' });
const call = item('activity', 2, { activityKind: 'call', position: 1 });
const decider = item('role', 3, { role: 'decides' });
const advice = item('tick', 1, { label: 'Look at the tide tables', needed: false });
const items = [decider, call, town, value, tick, advice];
const nothing: GuideFacts = {
  valueOf: () => null,
  done: new Set(),
  roles: new Set(),
  ticked: new Set(),
};
const held = (from: number, to: number, facts: Partial<GuideFacts> = {}) =>
  holdsUp(items, { ...nothing, ...facts }, builtIn, [1, 2, 3, 4], from, to).map((each) =>
    itemInWords(each, builtIn),
  );

describe('a guide', () => {
  it('holds up a move forward by what is required of the stages left and passed over, in their order', () => {
    expect(held(1, 2)).toEqual(['Site plan asked for', 'Value']);
    expect(held(1, 4)).toEqual([
      'Site plan asked for',
      'Value',
      'Town',
      'Call done',
      'Somebody named who decides',
    ]);
    expect(held(2, 3, { done: new Set(['call']), valueOf: () => 'Norderlund' })).toEqual([]);
  });

  it('holds nothing up on the way back, where it stands, or in another pipeline', () => {
    expect([held(3, 1), held(2, 2), held(9, 2), held(1, 9)]).toEqual([[], [], [], []]);
  });

  it('takes nothing, an empty text, an empty list and a zero for no answer', () => {
    for (const given of [null, undefined, '', 0, []])
      expect(isAnswered(value, { ...nothing, valueOf: () => given })).toBe(false);
    for (const given of [5, 'x', false, ['a']])
      expect(isAnswered(value, { ...nothing, valueOf: () => given })).toBe(true);
  });

  it('skips what cannot be asked about', () => {
    const gone = item('field', 1, { field: 'x_gone' });
    expect([canAsk(gone, builtIn), canAsk(value, builtIn)]).toEqual([false, true]);
    expect(canAsk(item('tick', 1, {}), builtIn)).toBe(false);
    expect(canAsk(item('role', 1, {}), builtIn)).toBe(false);
    expect(holdsUp([gone], nothing, builtIn, [1, 2], 1, 2)).toEqual([]);
  });

  it('leads leads from status to status: by their own fields, with nobody in a role', () => {
    const ofLead = (kind: GuideItem['kind'], status: string, more: Partial<GuideItem>): GuideItem => ({
      ...item(kind, 0, more),
      stage: null,
      status,
    });
    const interest = ofLead('field', 'working', { field: 'interest' });
    expect(canAsk(interest, builtIn)).toBe(true);
    for (const wrong of [{ field: 'account.city' }, { field: 'closeOn' }])
      expect(canAsk(ofLead('field', 'working', wrong), builtIn)).toBe(false);
    expect(canAsk(ofLead('role', 'working', { role: 'decides' }), builtIn)).toBe(false);
    const steps = leadSteps([
      { key: 'converted', label: 'Converted', kind: 'qualified' },
      { key: 'new', label: 'New', kind: 'open' },
      { key: 'gone', label: 'Gone', kind: 'open', retired: true },
      { key: 'no', label: 'No', kind: 'disqualified' },
      { key: 'working', label: 'Working', kind: 'open' },
    ]);
    expect(steps).toEqual(['new', 'working', 'converted']);
    const words = (from: string, to: string) =>
      holdsUp([interest], nothing, builtIn, steps, from, to).map((each) => itemInWords(each, builtIn));
    expect(words('new', 'converted')).toEqual(['Interest']);
    expect([words('new', 'working'), words('working', 'no'), words('no', 'converted')]).toEqual([[], [], []]);
  });

  it('is answered by what was ticked, done and named', () => {
    const facts = { ...nothing, ticked: new Set([tick.id]), roles: new Set(['decides']) };
    expect([isAnswered(tick, facts), isAnswered(advice, facts), isAnswered(decider, facts)]).toEqual([
      true,
      false,
      true,
    ]);
  });
});

describe('how far a deal is with its guides', () => {
  const some = fc.uniqueArray(fc.integer({ min: 1, max: 9 }));
  const stageOf = (of: number) => 1 + (of % 3);

  it('counts what its stage and those before ask for, and nothing of those ahead', () => {
    fc.assert(
      fc.property(some, some, fc.integer({ min: 1, max: 3 }), (ids, ticked, stage) => {
        const asked = ids.map((of) => ({ ...tick, id: of, stage: stageOf(of) }));
        const facts = { ...nothing, ticked: new Set(ticked) };
        const { open, done } = guideProgress(asked, facts, builtIn, [1, 2, 3], stage);
        const passed = ids.filter((of) => stageOf(of) <= stage);
        const left = passed.filter((of) => !ticked.includes(of));
        expect(open).toBe(left.length);
        expect(done === null).toBe(passed.length === 0);
        expect(done === 100).toBe(passed.length > 0 && left.length === 0);
      }),
    );
  });
});
