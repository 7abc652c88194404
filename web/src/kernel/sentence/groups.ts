import { isGroup, type Condition, type Group } from '@zawn/core';

/** `top` reads on in the line, `nested` stands indented below it, `inline` within related records. */
export type Nesting = 'top' | 'nested' | 'inline';

/** Any condition as a group, so that more can be added to it. */
export const asGroup = (condition: Condition | undefined): Group =>
  condition === undefined
    ? { join: 'all', of: [] }
    : isGroup(condition)
      ? condition
      : { join: 'all', of: [condition] };

/** A group as the condition it stands for: nothing when it is empty, its only part when it joins no others. */
export function fromGroup(group: Group): Condition | undefined {
  if (group.of.length === 0) return undefined;
  return group.of.length === 1 && group.join !== 'none' ? group.of[0] : group;
}

/** How the sentence says that a condition can be added to a group. */
export function addLabel({ join, of }: Group, nesting: Nesting): string {
  if (nesting === 'inline') return 'and where…';
  if (of.length === 0) return nesting === 'top' ? 'where…' : 'which…';
  return join === 'all' ? 'and…' : 'or…';
}
