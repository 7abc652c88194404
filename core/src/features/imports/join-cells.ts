import { isSetType, type Catalogue, type Field } from '../../kernel/catalogue';
import { nameRole } from './name-roles';
import { fillableAt, targetOf, type TargetKey } from './targets';

/**
 * The order in which columns that fill one field are joined: the parts of a name as it is said, all others as they
 * stand in the file.
 */
export function joinOrder(indexes: readonly number[], headings: readonly string[]): readonly number[] {
  if (indexes.length < 2) return indexes;
  const roles = indexes.map((index) => nameRole(headings[index] ?? '') ?? -1);
  if (roles.some((role) => role < 0)) return [...indexes].sort((a, b) => a - b);
  return indexes
    .map((index, at) => ({ index, role: roles[at] }))
    .sort((a, b) => a.role - b.role || a.index - b.index)
    .map(({ index }) => index);
}

/** Several cells as one: with a space between words, on lines of their own where a field has lines. */
export function joinCells({ type }: Pick<Field, 'type'>, cells: readonly string[]): string {
  const filled = cells.filter((cell) => cell !== '');
  return filled.join(type === 'longText' ? '\n' : isSetType(type) ? ', ' : ' ');
}

/** `Seagrave, Runa` as `Runa Seagrave`; a name without a comma as it is. */
export function flippedName(text: string): string {
  const [last, first, ...more] = text.split(',').map((part) => part.trim());
  return first === undefined || first === '' || more.length > 0 ? text : `${first} ${last}`;
}

/** Whether several columns can fill a field together. */
export function takesSeveral(catalogue: Catalogue, target: TargetKey, path: string): boolean {
  const field = fillableAt(catalogue, targetOf(target), path)?.field;
  return field !== undefined && (['text', 'longText'].includes(field.type) || isSetType(field.type));
}
