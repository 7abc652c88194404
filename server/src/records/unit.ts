import { IsNull, type EntityManager } from 'typeorm';
import {
  isObjectKey,
  maySetUp,
  objectKeys,
  objectType,
  storedFields,
  type Actor,
  type AnyRecord,
  type FieldValue,
  type ObjectKey,
} from '@zawn/core';
import { checkRecord, type Fault, type Locale, type Setter } from '@zawn/core/validation';
import { type ChangeRow } from '../database/entities';
import { invalidInput, Problem } from '../http/problem';
import { type Gate } from '../questions/gate';
import { type SearchIndex } from '../search/search-index';
import { type Meaning, type Values } from './meaning';

/** By which way something was written. */
export type Through = 'hand' | 'import' | 'conversion' | 'undo' | 'setup';

export interface ChangeOptions {
  /** The version the change was made against; left out where a feature reads and writes in one unit. */
  version?: number;
  setter?: Setter;
}

export interface UnitParts {
  id: number;
  at: string;
  actor: Actor;
  through: Through;
  /** The unit whose writing this one takes back. */
  undoes?: number;
  manager: EntityManager;
  gate: Gate;
  searchIndex: SearchIndex;
  locale: Locale;
  meanings: ReadonlyMap<ObjectKey, Meaning>;
}

/**
 * One unit of work: what one request writes, in one transaction, logged and undone together. Every write of a
 * record goes through `create`, `change`, `remove` or `restore`: reach → check → version → write → log → index.
 */
export class Unit {
  readonly id: number;
  readonly at: string;
  readonly actor: Actor;
  readonly through: Through;
  readonly undoes?: number;
  readonly manager: EntityManager;
  /** The objects written to, for those who watch. */
  readonly touched = new Set<ObjectKey>();
  /** What the unit did, in words, for the notice that offers to undo it. */
  label = '';

  constructor(private readonly parts: UnitParts) {
    const { id, at, actor, through, undoes, manager } = parts;
    Object.assign(this, { id, at, actor, through, undoes, manager });
  }

  /** A record within the actor's reach, as this unit has left it so far. */
  find(object: ObjectKey, id: number): Promise<AnyRecord> {
    return this.parts.gate.find(this.actor, object, id, this.manager);
  }

  /**
   * Creates a record.
   * @throws Problem `invalid-input` with every fault, `not-allowed` when the record would lie out of reach.
   */
  async create(object: ObjectKey, values: unknown, setter: Setter = 'hand'): Promise<AnyRecord> {
    this.mayWrite(object);
    const next = this.check(object, 'create', setter, values);
    const meaning = this.parts.meanings.get(object);
    await meaning?.prepare?.(this, next, undefined);
    await this.checkLinks(object, next);
    const head = {
      version: 1,
      createdAt: this.at,
      createdBy: this.actor.personId || null,
      updatedAt: this.at,
      deletedAt: null,
    };
    const { identifiers } = await this.manager.insert(object, { ...head, ...next });
    const id = Number(identifiers[0].id);
    const record = await this.find(object, id).catch((error: unknown) => {
      if (!(error instanceof Problem)) throw error;
      throw new Problem(
        'not-allowed',
        `You cannot create a ${objectType(object).label.toLowerCase()} for someone else.`,
      );
    });
    await this.log({ object, record: id, kind: 'created' });
    await meaning?.settle?.(this, record, undefined);
    await this.parts.searchIndex.put(this.manager, object, record);
    this.describe('Created', object, record);
    return record;
  }

  /**
   * Changes fields of a record. Values equal to what is there are left out; when none differ, nothing is written.
   * @throws Problem `stale-version` with the current record when someone changed it since.
   */
  async change(
    object: ObjectKey,
    id: number,
    values: unknown,
    options: ChangeOptions = {},
  ): Promise<AnyRecord> {
    const { version, setter = 'hand' } = options;
    this.mayWrite(object);
    const before = await this.find(object, id);
    this.checkVersion(object, before, version);
    const next = this.check(object, 'change', setter, values);
    const meaning = this.parts.meanings.get(object);
    await meaning?.prepare?.(this, next, before);
    const changed = Object.fromEntries(Object.entries(next).filter(([key, value]) => before[key] !== value));
    if (Object.keys(changed).length === 0) return before;
    await this.checkLinks(object, changed);
    await this.manager.update(object, id, { ...changed, version: before.version + 1, updatedAt: this.at });
    for (const [field, value] of Object.entries(changed)) {
      await this.log({ object, record: id, kind: 'changed', field, old: before[field], new: value });
    }
    const after: AnyRecord = Object.assign({}, before, changed, {
      version: before.version + 1,
      updatedAt: this.at,
    });
    await meaning?.settle?.(this, after, before);
    await this.parts.searchIndex.put(this.manager, object, after);
    this.describe(`Changed ${fieldLabels(object, changed)} of`, object, after);
    return after;
  }

  /** Puts a record in the bin, its links left intact. */
  async remove(object: ObjectKey, id: number, version?: number): Promise<void> {
    this.mayWrite(object);
    const record = await this.find(object, id);
    this.checkVersion(object, record, version);
    if (objectType(object).standing === 'setup') await this.checkUnused(object, record);
    await this.manager.update(object, id, {
      deletedAt: this.at,
      version: record.version + 1,
      updatedAt: this.at,
    });
    await this.log({ object, record: id, kind: 'removed' });
    await this.parts.searchIndex.remove(this.manager, object, id);
    this.describe('Deleted', object, record);
  }

  /** Brings a record back from the bin. */
  async restore(object: ObjectKey, id: number): Promise<void> {
    this.mayWrite(object);
    await this.manager.update(object, id, { deletedAt: null, updatedAt: this.at });
    // Only now can the gate see it; when it is out of reach, this throws and nothing of the unit stays.
    const record = await this.find(object, id);
    await this.manager.update(object, id, { version: record.version + 1 });
    await this.log({ object, record: id, kind: 'restored' });
    await this.parts.searchIndex.put(this.manager, object, record);
    this.describe('Brought back', object, record);
  }

  private mayWrite(object: ObjectKey): void {
    if (objectType(object).standing === 'setup' && !maySetUp(this.actor)) {
      throw new Problem(
        'not-allowed',
        `Only operations can change ${objectType(object).plural.toLowerCase()}.`,
      );
    }
    this.touched.add(object);
  }

  private check(object: ObjectKey, purpose: 'create' | 'change', setter: Setter, values: unknown): Values {
    const { value, faults } = checkRecord({ object, purpose, setter, locale: this.parts.locale }, values);
    if (!value) throw invalidInput(faults);
    return value;
  }

  private checkVersion(object: ObjectKey, record: AnyRecord, version: number | undefined): void {
    if (version === undefined || version === record.version) return;
    throw new Problem(
      'stale-version',
      `Someone changed this ${objectType(object).label.toLowerCase()} since you opened it. Look at their change, then try again.`,
      { current: record },
    );
  }

  /** Every link must lead to a record that is there and within reach. */
  private async checkLinks(object: ObjectKey, values: Values): Promise<void> {
    const faults: Fault[] = [];
    for (const [key, value] of Object.entries(values)) {
      const field = objectType(object).fields[key];
      if (value === null || field?.type !== 'link' || !isObjectKey(field.to)) continue;
      const target = await this.find(field.to, Number(value)).catch(() => undefined);
      if (!target || target.active === false) {
        faults.push({
          field: key,
          message: `${field.label}: there is no such ${objectType(field.to).label.toLowerCase()}`,
        });
      }
    }
    if (faults.length > 0) throw invalidInput(faults);
  }

  /** A stage, person or team that records still refer to cannot go: they would be left standing nowhere. */
  private async checkUnused(object: ObjectKey, record: AnyRecord): Promise<void> {
    for (const user of objectKeys) {
      for (const [key, field] of storedFields(user)) {
        if (field.to !== object) continue;
        const uses = await this.manager.countBy(user, { [key]: record.id, deletedAt: IsNull() });
        if (uses === 0) continue;
        const { label, plural } = objectType(user);
        const users = `${uses} ${(uses === 1 ? label : plural).toLowerCase()}`;
        throw new Problem(
          'conflict',
          `“${String(record[objectType(object).nameField])}” is still used by ${users}. Nothing was deleted.`,
        );
      }
    }
  }

  private async log(
    entry: Pick<ChangeRow, 'object' | 'record' | 'kind'> & {
      field?: string;
      old?: FieldValue;
      new?: FieldValue;
    },
  ) {
    const written = entry.field !== undefined;
    await this.manager.insert('change', {
      ...entry,
      unit: this.id,
      at: this.at,
      person: this.actor.personId || null,
      through: this.through,
      field: entry.field ?? null,
      old: written ? JSON.stringify(entry.old) : null,
      new: written ? JSON.stringify(entry.new) : null,
    });
  }

  /** The first thing a unit does names it, unless its feature does. */
  private describe(deed: string, object: ObjectKey, record: AnyRecord): void {
    const { label, nameField } = objectType(object);
    this.label ||= `${deed} ${label.toLowerCase()} “${String(record[nameField]).slice(0, 80)}”`;
  }
}

function fieldLabels(object: ObjectKey, changed: Values): string {
  const labels = Object.keys(changed).map((key) => objectType(object).fields[key].label.toLowerCase());
  return labels.length > 2 ? `${labels.length} fields` : labels.join(' and ');
}
