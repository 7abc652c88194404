import { fieldOf, offered, type Catalogue, type Choice, type OutcomeCount } from '../../kernel/catalogue';

/** The types of activities that are a touch: ours with them, theirs with us, or either when left out. */
export function touchTypes(catalogue: Catalogue, direction?: 'out' | 'in'): string[] {
  const types = fieldOf(catalogue, 'activity', 'kind')?.choices ?? [];
  return types
    .filter(({ touch }) => touch !== undefined && (direction === undefined || touch === direction))
    .map(({ key }) => key);
}

/** The outcomes that an activity of a type can end with; none for one that nothing is said of, such as a task. */
export function outcomesOf(catalogue: Catalogue, type: string): readonly Choice[] {
  if (!touchTypes(catalogue).includes(type)) return [];
  return offered(fieldOf(catalogue, 'activity', 'outcome')?.choices).filter(
    ({ types }) => types === undefined || types.includes(type),
  );
}

/** The outcomes that count as something, those retired as well: activities still have them. */
export function outcomesThatCount(catalogue: Catalogue, as: OutcomeCount): string[] {
  const all = fieldOf(catalogue, 'activity', 'outcome')?.choices ?? [];
  return all.filter(({ counts }) => counts?.includes(as)).map(({ key }) => key);
}
