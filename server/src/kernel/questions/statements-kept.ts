import { type EntityManager } from 'typeorm';
import { type Statement } from '../../platform/database/statement';

/** A statement over the records of some ids, of which the ids are still to be filled in. */
interface Kept {
  sql: string;
  parameters: readonly unknown[];
  /** Where among the parameters the id stands. */
  at: number;
  /** What it was made for; it holds as long as all of it is the same. */
  of: readonly unknown[];
}

/** Stands for the id while a statement is made: no record has it, and nothing else that is bound is this number. */
const ID = -4_503_599_627_370_497;

const kept = new WeakMap<EntityManager, Map<string, Kept>>();

/**
 * The statement for one record, made once for each kind that a transaction asks for: whoever changes thousands would
 * spend more time on making statements than on running them.
 * @param name tells one kind from another.
 * @param of what the statement rests on beside the id; another is made when any of it is another value.
 * @param make makes it for an id.
 */
export function statementForOne(
  manager: EntityManager,
  name: string,
  of: readonly unknown[],
  id: number,
  make: (id: number) => Statement,
): Statement {
  const known = kept.get(manager) ?? new Map<string, Kept>();
  kept.set(manager, known);
  let found = known.get(name);
  if (!found?.of.every((value, index) => value === of[index])) {
    const { sql, parameters } = make(ID);
    found = { sql, parameters, at: parameters.indexOf(ID), of };
    known.set(name, found);
  }
  const { sql, parameters, at } = found;
  return { sql, parameters: parameters.with(at, id) };
}
