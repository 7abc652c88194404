import { IsNull, type EntityManager } from 'typeorm';
import {
  aRecord,
  asSeen,
  blankValues,
  givenByOwner,
  holdsByOwner,
  howMany,
  isObjectKey,
  isSameScope,
  linksOf,
  objectKeys,
  objectType,
  operationsOn,
  requiredFields,
  seenCatalogue,
  type AnyRecord,
  type Catalogue,
  type ObjectKey,
  type Operation,
  type Policy,
  type Scope,
} from '@zawn/core';
import { CheckedValues, checkRecord, type Fault, type Locale, type Setter } from '@zawn/core/validation';
import { dialect } from '../../platform/database/dialect';
import { invalidInput, Problem } from '../../platform/http/problem';
import { linksTo } from './links-to';
import { type Values } from './values';

type WriteOperation = 'add' | 'edit' | 'delete';

/** Where something is about to be written. */
interface At {
  policy: Policy;
  manager: EntityManager;
  catalogue: Catalogue;
  locale: Locale;
  /** The unit that is taken back. */
  undoes?: number;
  /** Through what is written. */
  through: string;
  /** Whether a record, as the unit has left it, is one with which the actor may do something. */
  isWithin: (operation: Operation, object: ObjectKey, id: number) => Promise<boolean>;
  /** A record within the actor's reach, as the unit has left it so far. */
  find: (object: ObjectKey, id: number) => Promise<AnyRecord>;
}

/** What is looked at before a record is written: whether it may be, and whether its values hold. */
export class WriteChecks {
  /** Records that links were found to lead to; a file of thousands names the same few. */
  private readonly linkable = new Set<string>();
  /** Links of values about to be written that nobody gave, as they follow from another record. */
  private readonly followed = new WeakMap<Values, ReadonlySet<string>>();

  constructor(private readonly at: At) {}

  /**
   * @param record left out for a new one, whose place is looked at once it is written.
   * @throws Problem `not-allowed` when the actor may not do that with it.
   */
  async may(operation: WriteOperation, object: ObjectKey, record?: AnyRecord): Promise<void> {
    const { ownedBy, fields } = objectType(object);
    if (ownedBy && this.at.undoes === undefined) {
      const owner = objectType(fields[ownedBy.link].to as ObjectKey).label.toLowerCase();
      throw new Problem('not-allowed', `This is a part of its ${owner}. Change it there.`);
    }
    for (const each of this.asked(operation, object)) {
      const scope = this.at.policy.scope(object, each);
      if (scope === 'none') throw this.refusal(operation, object);
      if (record && !(await this.isWithin(scope, each, object, record)))
        throw this.refusal(operation, object, record);
    }
  }

  /**
   * A new record must lie where its maker may add one, and be seen by them.
   * @throws Problem `not-allowed` when it does not.
   */
  async added(object: ObjectKey, record: AnyRecord): Promise<void> {
    for (const each of this.asked('add', object)) {
      const scope = this.at.policy.scope(object, each);
      if (!(await this.isWithin(scope, each, object, record))) throw isForOthers(object);
    }
  }

  /** What has to be permitted for an operation: what is taken back was permitted when it was done. */
  private asked(operation: WriteOperation, object: ObjectKey): Operation[] {
    const { category, setUpBy } = objectType(object);
    if (this.at.undoes !== undefined) {
      // What is set up is taken back by whoever sets it up, also where that deletes or adds what they would not.
      const isTheirs = category === 'setup' && setUpBy !== undefined && this.at.policy.may(setUpBy);
      return [isTheirs || (category !== 'setup' && category !== 'log') ? 'see' : operation];
    }
    const isImported = this.at.through === 'import' && operationsOn(object).includes('import');
    return isImported && operation !== 'delete' ? [operation, 'import'] : [operation];
  }

  /** Whether a record lies within a scope. Who owns it says enough mostly; otherwise it is looked up. */
  private async isWithin(
    scope: Scope,
    operation: Operation,
    object: ObjectKey,
    record: AnyRecord,
  ): Promise<boolean> {
    if (holdsByOwner(scope, Number(record.owner))) return true;
    // Whatever is here was found by whoever sees it.
    if (operation !== 'add' && isSameScope(this.at.policy, object, operation)) return true;
    return this.at.isWithin(operation, object, record.id);
  }

  private refusal(operation: WriteOperation, object: ObjectKey, record?: AnyRecord): Problem {
    const { category, label, plural, setUpBy, nameField } = objectType(object);
    const verb = { add: 'add', edit: 'change', delete: 'delete' }[operation];
    if (category === 'log')
      return new Problem('not-allowed', 'What happened stays written as it was. Undo it instead.');
    if (setUpBy)
      return new Problem(
        'not-allowed',
        `Your role does not let you ${verb} ${plural.toLowerCase()}. Ask whoever sets up Zawn in your organisation.`,
      );
    if (!record)
      return new Problem('not-allowed', `Your role does not let you ${verb} ${plural.toLowerCase()}.`);
    if (category === 'shared')
      return new Problem(
        'not-allowed',
        `Only its owner can change this ${label.toLowerCase()}. Save a copy of your own.`,
      );
    return new Problem(
      'not-allowed',
      `Your role does not let you ${verb} this ${label.toLowerCase()}, “${String(record[nameField]).slice(0, 80)}”.`,
    );
  }

  /**
   * Values in their normal form, at creation with every field.
   * @throws Problem `invalid-input` with every fault.
   */
  values(object: ObjectKey, purpose: 'create' | 'change', setter: Setter, values: unknown): Values {
    const { locale, catalogue, policy } = this.at;
    if (values instanceof CheckedValues) return values.complete(catalogue, object, purpose);
    const takesRetired = this.at.undoes !== undefined;
    // A person sets what they may see; what follows from that, or is taken back, is set whoever sees it.
    const fields = setter === 'hand' && !takesRetired ? seenCatalogue(catalogue, policy) : catalogue;
    const { value, faults } = checkRecord(
      { object, purpose, setter, locale, catalogue: fields, takesRetired },
      values,
    );
    if (!value) throw invalidInput(faults);
    return purpose === 'create' ? Object.assign(blankValues(catalogue, object), value) : value;
  }

  /** @throws Problem `stale-version` with the current record when it is another than the one meant. */
  version(object: ObjectKey, record: AnyRecord, version: number | undefined): void {
    if (version !== undefined && version !== record.version)
      throw isStale(object, asSeen(this.at.policy, this.at.catalogue, object, record));
  }

  /** What is required and nobody can set by hand must have been filled in by its feature. */
  whole(object: ObjectKey, values: Values): void {
    const given = givenByOwner(object);
    const missing = requiredFields(object).filter(
      ([key]) => (values[key] ?? null) === null && !given.includes(key),
    );
    if (missing.length > 0)
      throw invalidInput(missing.map(([field, { label }]) => ({ field, message: `${label} is missing` })));
  }

  /** Takes note of links of values about to be written that follow from another record. */
  follow(next: Values, links: readonly string[]): void {
    if (links.length > 0) this.followed.set(next, new Set([...(this.followed.get(next) ?? []), ...links]));
  }

  /** Every link that somebody gave must lead to a record that is there and within reach. */
  async links(object: ObjectKey, values: Values, meant = values): Promise<void> {
    // What is taken back was there before, wherever it leads by now.
    if (this.at.undoes !== undefined) return;
    const followed = this.followed.get(meant);
    const faults: Fault[] = [];
    for (const [key, field] of linksOf(this.at.catalogue, object)) {
      const value = values[key] ?? null;
      if (value === null || !isObjectKey(field.to) || followed?.has(key)) continue;
      const name = `${field.to} ${Number(value)}`;
      if (this.linkable.has(name)) continue;
      const target = await this.at.find(field.to, Number(value)).catch(() => undefined);
      if (target && target.active !== false) this.linkable.add(name);
      else {
        faults.push({
          field: key,
          message: `${field.label}: there is no such ${objectType(field.to).label.toLowerCase()}`,
        });
      }
    }
    if (faults.length > 0) throw invalidInput(faults);
  }

  /** A stage, person or team that records still refer to cannot go: they would be left standing nowhere. */
  async unused(object: ObjectKey, record: AnyRecord): Promise<void> {
    for (const [user, key] of linksTo(object)) {
      const uses = await this.at.manager.countBy(user, { [key]: record.id, deletedAt: IsNull() });
      if (uses === 0) continue;
      throw stillUsed(object, record, user, uses);
    }
    for (const user of objectKeys)
      for (const [key, field] of Object.entries(this.at.catalogue.custom[user] ?? {})) {
        if (field.to !== object) continue;
        const uses = await this.at.manager
          .createQueryBuilder()
          .from(user, 'r')
          .where(`${dialect.jsonValue('r.custom', key)} = :id AND r.deletedAt IS NULL`, { id: record.id })
          .getCount();
        if (uses > 0) throw stillUsed(object, record, user, uses);
      }
  }

  /** A record that is gone: links lead there no more. */
  forget(object: ObjectKey, id: number): void {
    this.linkable.delete(`${object} ${id}`);
  }

  /** What was written was taken back: links are looked up anew. */
  forgetAll(): void {
    this.linkable.clear();
  }
}

function stillUsed(object: ObjectKey, record: AnyRecord, user: ObjectKey, uses: number): Problem {
  const name = String(record[objectType(object).nameField]);
  return new Problem('conflict', `“${name}” is still used by ${howMany(user, uses)}. Nothing was deleted.`);
}

/** What whoever creates a record out of their own reach is answered. */
export const isForOthers = (object: ObjectKey) =>
  new Problem('not-allowed', `You cannot create ${aRecord(object)} for someone else.`);

/** What whoever meant an earlier version of a record is answered. */
export const isStale = (object: ObjectKey, current: AnyRecord) =>
  new Problem(
    'stale-version',
    `Someone changed this ${objectType(object).label.toLowerCase()} since you opened it. Look at their change, then try again.`,
    { current },
  );
