import { In, type EntityManager } from 'typeorm';
import {
  actType,
  asSeen,
  howMany,
  isComputedFromOthers,
  isSubject,
  objectType,
  partsOf,
  policyOf,
  profileFields,
  systemActor,
  type Act,
  type SetupOperation,
  type Actor,
  type Alike,
  type AnyRecord,
  type Catalogue,
  type ObjectKey,
  type Operation,
  type OwnedParts,
  type Policy,
  type QuestionContext,
  type Rate,
} from '@zawn/core';
import { type Locale, type Setter } from '@zawn/core/validation';
import { dialect } from '../../platform/database/dialect';
import { notFound, Problem } from '../../platform/http/problem';
import { PendingNotices, type WrittenKind } from '../notices/pending';
import { type Gate } from '../questions/gate';
import { type SearchIndex } from '../search/search-index';
import { type ListMembers } from '../views/list-members';
import { changedIn, columnsOf, newRow, type NewHead } from './columns';
import { type AffectedRecords } from './derivation';
import { type HooksByObject } from './hooks';
import { apart, differs, preparedParts, standing, writeParts, type Parts } from './parts';
import { logChange, type Logged } from './log-change';
import { changeInWords, recordInWords } from './unit-words';
import { type Values } from './values';
import { isForOthers, isStale, WriteChecks } from './write-checks';

/** By which way something was written. */
export type Through =
  | 'hand'
  | 'bulk'
  | 'import'
  | 'api'
  | 'form'
  | 'mail'
  | 'conversion'
  | 'merge'
  | 'undo'
  | 'setup'
  | 'phone'
  | 'schedule';

export interface ChangeOptions {
  /** The version the change was made against; left out where a feature reads and writes in one unit. */
  version?: number;
  setter?: Setter;
  /** The record as it was read in this unit, where many are written one after the other. */
  before?: AnyRecord;
  /**
   * What somebody has to be permitted instead of editing such records: a setting that is a feature's own, or
   * `oneself` where one's own entry among the people is meant.
   */
  permittedBy?: Act | 'oneself';
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
  members: ListMembers;
  locale: Locale;
  catalogue: Catalogue;
  hooks: HooksByObject<Unit>;
  affected: AffectedRecords;
  rates: () => Promise<readonly Rate[]>;
  whoMay: (manager: EntityManager, act: Act, operation?: SetupOperation) => Promise<number[]>;
}

const isProfile = (values: unknown) =>
  Object.keys(values ?? {}).every((field) => (profileFields as readonly string[]).includes(field));

const NONE: readonly string[] = [];
const NO_PARTS: Parts = {};

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
  readonly catalogue: Catalogue;
  /** Records with derived values that this unit may have changed. */
  readonly affected: AffectedRecords;
  /** What its actor may see and do. */
  readonly policy: Policy;
  /** The objects written to, for those who watch. */
  readonly touched = new Set<ObjectKey>();
  /** People who are no longer here once this unit is written. */
  readonly leaving = new Set<number>();
  /** Names and words whose spellings this unit has put into the search index. */
  readonly terms = new Set<string>();
  /** What people are to be told of what this unit did. */
  readonly pending = new PendingNotices();
  private readonly checks: WriteChecks;
  /** Of what object the records are that this unit has read or written. */
  private readonly objectOf = new WeakMap<object, ObjectKey>();
  /** What the unit did, in words, for the notice that offers to undo it. */
  label = '';

  constructor(private readonly parts: UnitParts) {
    const { id, at, actor, through, undoes, manager, catalogue, affected } = parts;
    this.policy = policyOf(actor);
    Object.assign(this, { id, at, actor, through, undoes, manager, catalogue, affected });
    this.checks = new WriteChecks({
      ...parts,
      policy: this.policy,
      find: (object, record) => this.find(object, record),
      isWithin: async (operation, object, record) =>
        (await this.parts.gate.visibleStored(actor, object, [record], manager, operation)).has(record),
    });
  }

  /** A record within the actor's reach, as this unit has left it so far. */
  async find(object: ObjectKey, id: number): Promise<AnyRecord> {
    const record = await this.parts.gate.find(this.actor, object, id, this.manager);
    this.objectOf.set(record, object);
    return record;
  }

  /**
   * What the unit gives whoever wrote it: a record, or some by name, without the fields that they do not see.
   * Inside, whole records are worked on.
   */
  asSeen<T>(value: T): T {
    if (typeof value !== 'object' || value === null) return value;
    const object = this.objectOf.get(value);
    if (object)
      return asSeen(this.policy, this.catalogue, object, value as unknown as AnyRecord) as unknown as T;
    if (Array.isArray(value)) return value.map((each: unknown) => this.asSeen(each)) as unknown as T;
    if (Object.getPrototypeOf(value) !== Object.prototype) return value;
    return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, this.asSeen(each)])) as T;
  }

  /** Which of these records are within the actor's reach, as this unit has left them. */
  async visible(object: ObjectKey, ids: readonly number[]): Promise<Map<number, AnyRecord>> {
    const found = await this.parts.gate.visible(this.actor, object, ids, this.manager);
    for (const record of found.values()) this.objectOf.set(record, object);
    return found;
  }

  /** @throws Problem `not-allowed` when the actor may not do something beside working with records. */
  mustMay(act: Act): void {
    // What is taken back was permitted when it was done.
    if (this.undoes !== undefined || this.policy.may(act)) return;
    const { label } = actType(act);
    throw new Problem(
      'not-allowed',
      `Your role does not let you ${label[0].toLowerCase()}${label.slice(1)}.`,
    );
  }

  /**
   * Whether the actor may do something with a record.
   * @param by `roles` leaves out what is only shared with them.
   */
  async reaches(
    operation: Operation,
    object: ObjectKey,
    id: number,
    by: 'roles' | 'all' = 'all',
  ): Promise<boolean> {
    const actor = by === 'all' ? this.actor : { ...this.actor, shared: { see: {}, edit: {} } };
    return (await this.parts.gate.visibleStored(actor, object, [id], this.manager, operation)).has(id);
  }

  /** What questions mean for whoever writes, with every field there is. */
  async context(): Promise<QuestionContext> {
    return { ...(await this.parts.gate.context(this.actor)), catalogue: this.catalogue };
  }

  rates(): Promise<readonly Rate[]> {
    return this.parts.rates();
  }

  /** The people here, as this unit has left them, who may do something, or one thing with a part of setting up. */
  whoMay(act: Act, operation?: SetupOperation): Promise<number[]> {
    return this.parts.whoMay(this.manager, act, operation);
  }

  /** Records whether within reach or not, as this unit has left them: for what follows from a write without being told. */
  async everyones(object: ObjectKey, ids: readonly number[]): Promise<Map<number, AnyRecord>> {
    const { gate } = this.parts;
    if (objectType(object).category !== 'shared') return gate.visible(systemActor, object, ids, this.manager);
    // What people keep to themselves is read as they see it: nobody else does.
    const rows = await this.manager.findBy<{ id: number; owner: number }>(object, { id: In([...ids]) });
    const found = new Map<number, AnyRecord>();
    for (const owner of new Set(rows.map((row) => row.owner)))
      for (const [id, record] of await gate.visible(
        { ...systemActor, personId: owner },
        object,
        ids,
        this.manager,
      ))
        found.set(id, record);
    return found;
  }

  /** Whether a record is within someone else's reach, as this unit has left it. */
  isReachedBy(person: number, object: ObjectKey, id: number): Promise<boolean> {
    return this.parts.gate.isReached(person, object, id, this.manager);
  }

  /**
   * Creates a record, with the parts that come with its values.
   * @throws Problem `invalid-input` with every fault, `not-allowed` when the record would lie out of reach.
   */
  async create(
    object: ObjectKey,
    values: unknown,
    setter: Setter = 'hand',
    /** Links that nobody gave: they follow from another record, and lead where that one's do, come what may. */
    follows: readonly string[] = [],
  ): Promise<AnyRecord> {
    await this.may('add', object);
    const record = await this.createAlong(object, values, setter, follows);
    if (!objectType(object).ownedBy) await this.checks.added(object, record);
    return record;
  }

  /** Creates a record that follows from what was done with another, wherever it lies. */
  async createAlong(
    object: ObjectKey,
    values: unknown,
    setter: Setter,
    follows: readonly string[],
  ): Promise<AnyRecord> {
    const { own, lists } = apart(object, values);
    const parts = await preparedParts(this, lists, setter, () => Promise.resolve([]), follows);
    const next = await this.prepare(object, own, setter, undefined, { follows, parts: standing(parts) });
    const record = await this.insert(object, next);
    await writeParts(this, record.id, parts);
    return record;
  }

  /**
   * Changes fields of a record. Values equal to what is there are left out; when none differ, nothing is written.
   * A list of parts stands in the place of the one that is there: what has no id is new, what is missing goes.
   * @throws Problem `stale-version` with the current record when someone changed it since.
   */
  async change(
    object: ObjectKey,
    id: number,
    values: unknown,
    options: ChangeOptions = {},
  ): Promise<AnyRecord> {
    const { version, setter = 'hand' } = options;
    const before = options.before ?? (await this.find(object, id));
    const { own, lists } = apart(object, values);
    await this.mayChange(object, before, own, options.permittedBy);
    this.checks.version(object, before, version);
    const parts = await preparedParts(this, lists, setter, (kind) => this.partsOn(kind, id));
    const next = await this.prepare(object, own, setter, before, { parts: standing(parts) });
    const isOther = (was: AnyRecord, is: Values) => Object.keys(changedIn(was, is)).length > 0;
    const hasOtherParts = differs(parts, (was, is) => !isOther(was, is));
    // A change of its parts is one of the record, and makes a new version of it.
    const record = await this.alter(object, before, next, hasOtherParts);
    await writeParts(this, id, parts);
    return record;
  }

  private async mayChange(
    object: ObjectKey,
    before: AnyRecord,
    values: unknown,
    by: ChangeOptions['permittedBy'],
  ): Promise<void> {
    const isUndo = this.undoes !== undefined;
    const isOneself = object === 'person' && before.id === this.actor.personId;
    // What people said about themselves they may take back too.
    if (isOneself && (isUndo || by === 'oneself') && isProfile(values)) return;
    if (by !== undefined && by !== 'oneself' && !isUndo) this.mustMay(by);
    else await this.may('edit', object, before);
  }

  /** Checks and completes values about to be written: of a new record, or of changes to one. */
  async prepare(
    object: ObjectKey,
    values: unknown,
    setter: Setter,
    before: AnyRecord | undefined,
    { follows = NONE, parts = NO_PARTS }: { follows?: readonly string[]; parts?: Parts } = {},
  ): Promise<Values> {
    const next = this.checks.values(object, before ? 'change' : 'create', setter, values);
    this.checks.follow(next, follows);
    for (const hook of this.parts.hooks.of(object)) await hook.beforeWrite?.(this, next, before, parts);
    if (!before && setter === 'hand') this.checks.whole(object, next);
    if (!before) await this.checks.links(object, next);
    return next;
  }

  /** Writes a new record whose values are prepared. */
  async insert(object: ObjectKey, next: Values): Promise<AnyRecord> {
    const createdBy = this.actor.personId || null;
    const head: NewHead = { version: 1, createdAt: this.at, createdBy, updatedAt: this.at };
    const { columns, row } = newRow(this.catalogue, object, head, next);
    const id = dialect.insertRow(this.manager, object, columns, row);
    // What is computed from other records is not among the values.
    const record = isComputedFromOthers(this.catalogue, object)
      ? await this.readBack(object, id)
      : asWritten(id, head, next);
    this.objectOf.set(record, object);
    this.log({ object, record: id, kind: 'created' });
    for (const hook of this.parts.hooks.of(object)) await hook.afterWrite?.(this, record, undefined);
    await this.parts.searchIndex.put(this, object, record, 'new');
    this.touched.add(object);
    this.affected.note(object, record);
    this.tellOwner(object, record);
    this.describe('Created', object, record);
    return record;
  }

  /**
   * Writes those of a record's prepared values that differ.
   * @param anyway makes a new version even when none does.
   */
  async alter(object: ObjectKey, before: AnyRecord, next: Values, anyway = false): Promise<AnyRecord> {
    const { id } = before;
    const changed = changedIn(before, next);
    if (Object.keys(changed).length === 0 && !anyway) return before;
    await this.checks.links(object, changed, next);
    const { columns, custom } = columnsOf(changed);
    await this.write(object, before, columns);
    // Merged in the database, so that what retired fields still hold stays.
    if (custom) dialect.run(this.manager, dialect.mergeJson(object, 'custom'), [JSON.stringify(custom), id]);
    for (const [field, value] of Object.entries(changed)) {
      this.log({ object, record: id, kind: 'changed', field, old: before[field], new: value });
    }
    const after: AnyRecord = Object.assign({}, before, changed, {
      version: before.version + 1,
      updatedAt: this.latest(before),
    });
    this.objectOf.set(after, object);
    for (const hook of this.parts.hooks.of(object)) await hook.afterWrite?.(this, after, before);
    await this.parts.searchIndex.put(this, object, after, before);
    this.touched.add(object);
    this.affected.note(object, after, before);
    this.tellOwner(object, after, before);
    this.describe(changeInWords(this.parts.catalogue, object, changed), object, after);
    return after;
  }

  /** Puts a record in the bin, its links left intact, and its parts with it. */
  async remove(object: ObjectKey, id: number, version?: number): Promise<void> {
    const record = await this.find(object, id);
    this.checks.version(object, record, version);
    await this.removeFound(object, record);
  }

  /** The same of a record that was read already, as it stands now. */
  async removeFound(object: ObjectKey, record: AnyRecord): Promise<void> {
    await this.may('delete', object, record);
    if (objectType(object).category === 'setup') await this.checks.unused(object, record);
    await this.takeAway(object, record);
  }

  /** Puts a record and its parts in the bin as what was done with another has it, whoever may delete it. */
  async takeAway(object: ObjectKey, record: AnyRecord): Promise<void> {
    // It is what is deleted, not the first of its parts.
    this.describe('Deleted', object, record);
    const hooks = this.parts.hooks.of(object);
    for (const hook of hooks) await hook.beforeRemove?.(this, record);
    for (const kind of partsOf(object))
      for (const part of await this.partsOn(kind, record.id)) await this.discard(kind.object, part);
    await this.discard(object, record);
  }

  /** Puts a record in the bin that may go there. */
  async discard(object: ObjectKey, record: AnyRecord): Promise<void> {
    const { id } = record;
    this.checks.forget(object, id);
    await this.write(object, record, { deletedAt: this.at });
    this.log({ object, record: id, kind: 'removed' });
    for (const hook of this.parts.hooks.of(object)) await hook.afterRemove?.(this, record);
    this.parts.searchIndex.remove(this.manager, object, id);
    this.touched.add(object);
    this.affected.note(object, record);
    this.describe('Deleted', object, record);
  }

  /** Brings a record back from the bin, and the parts that went there with it. */
  async restore(object: ObjectKey, id: number): Promise<void> {
    const gone = await this.manager.findOneBy<AnyRecord>(object, { id });
    if (!gone) throw notFound(`${objectType(object).label} ${id}`);
    await this.may('delete', object, await this.bringBack(object, gone));
    // Whatever takes a unit back restores the parts one by one, as they were deleted.
    if (this.undoes !== undefined || !gone.deletedAt) return;
    for (const { object: part, link } of partsOf(object)) {
      const rows = await this.manager.findBy<AnyRecord>(part, { [link]: id, deletedAt: gone.deletedAt });
      for (const row of rows) await this.bringBack(part, row);
    }
  }

  private async bringBack(object: ObjectKey, gone: AnyRecord): Promise<AnyRecord> {
    const { id } = gone;
    await this.write(object, gone, { deletedAt: null });
    // Only now can the gate see it; when it is out of reach, this throws and nothing of the unit stays.
    const record = await this.find(object, id);
    this.log({ object, record: id, kind: 'restored' });
    for (const hook of this.parts.hooks.of(object)) await hook.afterRestore?.(this, record);
    await this.parts.searchIndex.put(this, object, record);
    this.touched.add(object);
    this.affected.note(object, record);
    this.describe('Brought back', object, record);
    return record;
  }

  /** The parts of a kind that a record owns, in their order, as this unit has left them. */
  partsOn(kind: OwnedParts, owner: number): Promise<AnyRecord[]> {
    return this.parts.gate.partsOn(kind, owner, this.manager);
  }

  /**
   * Puts records on a list, or takes them off it. Records on it already, or not within reach, are left as they are.
   * @returns how many were put on or taken off.
   */
  async putOnList(list: number, ids: readonly number[], how: 'added' | 'taken'): Promise<number> {
    const record = await this.find('list', list);
    await this.may('edit', 'list', record);
    const object = record.object as ObjectKey;
    // What is to come off may lie out of reach by now, or be gone.
    const meant = how === 'taken' ? [...ids] : [...(await this.visible(object, ids)).keys()];
    const { length } = await this.setMembers(list, object, meant, how);
    if (length === 0) return 0;
    const what = howMany(object, length);
    this.label ||= `${how === 'added' ? 'Put' : 'Took'} ${what} ${how === 'added' ? 'on' : 'off'} the list “${String(record.name)}”`;
    return length;
  }

  /**
   * Puts records on a list or takes them off it, whoever’s list it is: for what follows from a write, such as a merge.
   * @returns those that were not so already.
   */
  async setMembers(
    list: number,
    object: ObjectKey,
    ids: readonly number[],
    how: 'added' | 'taken',
  ): Promise<number[]> {
    const changed = await this.parts.members.change(this.manager, list, ids, how);
    if (changed.length === 0) return changed;
    const entry = { object: 'list', record: list, kind: how, field: 'members' } as const;
    this.log(how === 'added' ? { ...entry, old: null, new: changed } : { ...entry, old: changed, new: null });
    this.touched.add('list').add(object);
    return changed;
  }

  /**
   * Does a part of the work that may be refused while the rest goes on: refused, it leaves nothing behind.
   * @returns why it was refused; undefined when it was done.
   */
  async attempt(work: () => Promise<unknown>): Promise<string | undefined> {
    const { before, keep, takeBack } = dialect.savepoint;
    const told = this.pending.count;
    dialect.run(this.manager, before);
    try {
      await work();
      dialect.run(this.manager, keep);
      return undefined;
    } catch (error) {
      for (const statement of takeBack) dialect.run(this.manager, statement);
      this.terms.clear();
      this.checks.forgetAll();
      this.pending.takeBackTo(told);
      if (error instanceof Problem) return error.detail.replace(/ Nothing was written\.$/, '');
      throw error;
    }
  }

  /** When a record was last changed, this time included: never before what is in the log, however the clock is set. */
  private latest({ updatedAt }: AnyRecord): string {
    return updatedAt > this.at ? updatedAt : this.at;
  }

  /** Writes columns of a record as its next version, if it is still the one that was read. */
  private async write(
    object: ObjectKey,
    before: AnyRecord,
    columns: Readonly<Record<string, unknown>>,
  ): Promise<void> {
    const { id, version } = before;
    const next = { ...columns, version: version + 1, updatedAt: this.latest(before) };
    if (dialect.update(this.manager, object, id, next, version)) return;
    throw isStale(object, asSeen(this.policy, this.catalogue, object, await this.find(object, id)));
  }

  /**
   * The record that was just written, as the gate reads it.
   * @throws Problem `not-allowed` when it lies out of the actor's reach.
   */
  private readBack(object: ObjectKey, id: number): Promise<AnyRecord> {
    return this.find(object, id).catch((error: unknown) => {
      if (!(error instanceof Problem)) throw error;
      throw isForOthers(object);
    });
  }

  /** Makes sure the actor may do something with a record of an object, which is then noted as written to. */
  private async may(
    operation: 'add' | 'edit' | 'delete',
    object: ObjectKey,
    record?: AnyRecord,
  ): Promise<void> {
    await this.checks.may(operation, object, record);
    this.touched.add(object);
  }

  /** Takes note of links of values about to be written that follow from another record. */
  follow(next: Values, links: readonly string[]): void {
    this.checks.follow(next, links);
  }

  private log(entry: Logged): void {
    logChange(this, entry);
  }

  /** Whoever is given a record by someone else hears of it. */
  private tellOwner(object: ObjectKey, record: AnyRecord, before?: AnyRecord): void {
    if (!isSubject(object) || this.undoes !== undefined) return;
    const person = Number(record.owner);
    if (person === this.actor.personId || person === before?.owner) return;
    if (before) this.pending.add({ person, kind: 'handedOver', object, record });
    else if (object === 'lead') this.pending.add({ person, kind: 'leadArrived', object, record });
  }

  /** Tells a person of something that concerns a record and is no change of it. */
  tell(
    person: number,
    kind: WrittenKind,
    on: { object: ObjectKey; record: AnyRecord },
    subject: string,
  ): void {
    if (person !== this.actor.personId) this.pending.add({ person, kind, ...on, subject });
  }

  /** Adds to what the owner of a new lead hears whom it may be. */
  tellMore(lead: AnyRecord, alike: Alike): void {
    this.pending.addAlike(lead.id, alike);
  }

  /** The first thing a unit does names it, unless its feature does. */
  private describe(action: string, object: ObjectKey, record: AnyRecord): void {
    this.label ||= `${action} ${recordInWords(object, record)}`;
  }
}

/** A new record made of the values it was written with, which are given away. */
function asWritten(id: number, head: NewHead, values: Values): AnyRecord {
  // By name and one by one: the engine takes as long over a copy of so many values as over writing the row.
  const record = values as Values & NewHead & { id: number };
  record.id = id;
  record.version = head.version;
  record.createdAt = head.createdAt;
  record.createdBy = head.createdBy;
  record.updatedAt = head.updatedAt;
  return record as AnyRecord;
}
