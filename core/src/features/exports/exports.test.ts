import fc from 'fast-check';
import { type Field } from '../../kernel/catalogue';
import { exportCell, guarded, plainCell, unguarded } from '.';

const names = {
  nameOf: (object: string, id: number) => `${object} ${id}`,
  listName: (id: number) => `List ${id}`,
};
const cell = (field: Partial<Field>, value: Parameters<typeof exportCell>[1], currency = 'GBP') =>
  exportCell({ label: 'X', type: 'text', ...field }, value, currency, names);
const plain = (...args: Parameters<typeof cell>) => plainCell(cell(...args), (instant) => instant);

describe('a cell of an exported file', () => {
  it('has the type of its field', () => {
    expect(cell({ type: 'money' }, 1250)).toEqual({ type: 'number', number: 12.5, format: 'money' });
    expect(cell({ type: 'money' }, 1250, 'JPY')).toEqual({ type: 'number', number: 1250, format: 'money' });
    expect(cell({ type: 'percent' }, 40)).toEqual({ type: 'number', number: 0.4, format: 'percent' });
    expect(cell({ type: 'date' }, '2026-11-19')).toEqual({ type: 'date', day: '2026-11-19' });
    expect(cell({ type: 'yesNo' }, false)).toEqual({ type: 'yesNo', isYes: false });
    expect(cell({ type: 'link', to: 'person' }, 4)).toEqual({ type: 'text', text: 'person 4' });
    expect(cell({ type: 'lists' }, [1, 2])).toEqual({ type: 'text', text: 'List 1, List 2' });
    expect(cell({}, null)).toEqual({ type: 'empty' });
  });

  it('says choices by their label', () => {
    const choices = [{ key: 'a', label: 'Aft' }];
    expect(plain({ type: 'choice', choices }, 'a')).toBe('Aft');
    expect(plain({ type: 'choices', choices }, ['a', 'gone'])).toBe('Aft, gone');
  });

  it.each(['=1+1', '+441632960001', '-x', '@SUM(A1)', '\tx', '\rx', "'=x"])(
    'makes %j safe, and reads it back',
    (text) => {
      expect(plain({}, text)).toBe(`'${text}`);
      expect(unguarded(guarded(text))).toBe(text);
    },
  );

  it('leaves numbers below nothing as numbers', () => {
    expect(plain({ type: 'number' }, -5)).toBe('-5');
  });

  it('is read back as it was, whatever it was', () => {
    fc.assert(fc.property(fc.string(), (text) => unguarded(guarded(text)) === text));
  });
});
