import { IsNull, type EntityManager } from 'typeorm';
import {
  blankValues,
  howMany,
  isObjectKey,
  linksOf,
  objectKeys,
  objectType,
  requiredFields,
  type Actor,
  type AnyRecord,
  type Catalogue,
  type ObjectKey,
  type Policy,
} from '@zawn/core';
import { CheckedValues, checkRecord, type Fault, type Locale, type Setter } from '@zawn/core/validation';
import { dialect } from '../../platform/database/dialect';
import { invalidInput, Problem } from '../../platform/http/problem';
import { linksTo } from './links-to';
import { type Values } from './values';

/** Where something is about to be written. */
interface At {
  actor: Actor;
  policy: Policy;
  manager: EntityManager;
  catalogue: Catalogue;
  locale: Locale;
  /** The unit that is taken back. */
  undoes?: number;
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
   * @param record left out for a new one.
   * @throws Problem `not-allowed` when the actor may not write it.
   */
  mayWrite(object: ObjectKey, record?: AnyRecord): void {
    const { ownedBy, fields } = objectType(object);
    if (ownedBy && this.at.undoes === undefined) {
      const owner = objectType(fields[ownedBy.link].to as ObjectKey).label.toLowerCase();
      throw new Problem('not-allowed', `This is a part of its ${owner}. Change it there.`);
    }
    // A new view or list is its maker's, whatever it says.
    const maker = record ?? (Object.assign({}, { owner: this.at.actor.personId }) as unknown as AnyRecord);
    if (!this.at.policy.mayChange(object, maker)) {
      const { category, label, plural } = objectType(object);
      throw new Problem(
        'not-allowed',
        category === 'log'
          ? 'What happened stays written as it was. Undo it instead.'
          : category === 'setup'
            ? `Only operations can change ${plural.toLowerCase()}.`
            : `Only its owner can change this ${label.toLowerCase()}. Save a copy of your own.`,
      );
    }
  }

  /**
   * Values in their normal form, at creation with every field.
   * @throws Problem `invalid-input` with every fault.
   */
  values(object: ObjectKey, purpose: 'create' | 'change', setter: Setter, values: unknown): Values {
    const { locale, catalogue } = this.at;
    if (values instanceof CheckedValues) return values.complete(catalogue, object, purpose);
    const takesRetired = this.at.undoes !== undefined;
    const { value, faults } = checkRecord(
      { object, purpose, setter, locale, catalogue, takesRetired },
      values,
    );
    if (!value) throw invalidInput(faults);
    return purpose === 'create' ? Object.assign(blankValues(catalogue, object), value) : value;
  }

  /** @throws Problem `stale-version` with the current record when it is another than the one meant. */
  version(object: ObjectKey, record: AnyRecord, version: number | undefined): void {
    if (version !== undefined && version !== record.version) throw isStale(object, record);
  }

  /** What is required and nobody can set by hand must have been filled in by its feature. */
  whole(object: ObjectKey, values: Values): void {
    // Whose part it is, and at which place, follows from where it stands.
    const given = [objectType(object).ownedBy?.link, objectType(object).ownedBy && 'position'];
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

/** What whoever meant an earlier version of a record is answered. */
export const isStale = (object: ObjectKey, current: AnyRecord) =>
  new Problem(
    'stale-version',
    `Someone changed this ${objectType(object).label.toLowerCase()} since you opened it. Look at their change, then try again.`,
    { current },
  );
