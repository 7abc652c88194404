import { Injectable } from '@nestjs/common';
import {
  actsOf,
  ask,
  fieldsOf,
  objectType,
  operationsOfPart,
  operationsOn,
  permittedObjects,
  policyOf,
  rulesOf,
  withheldFrom,
  type Actor,
  type AnyRecord,
  type Clause,
  type HeldRole,
  type ObjectKey,
  type ObjectReach,
  type Operation,
  type PersonReach,
  type ReachChange,
  type RecordReach,
  type RecordVerdict,
  type RolePreview,
  type RoleRules,
  type SaidByRole,
} from '@zawn/core';
import { checkRoleChanges } from '@zawn/core/validation';
import { invalidInput, notFound } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';

/** Records named for each object. */
const EXAMPLES = 3;

const said = ({ role, where, reach }: Clause): SaidByRole => ({ role, where: where ?? null, reach });

/** Tells what somebody can see and do, and what a change of their roles would come to. */
@Injectable()
export class ReachTeller {
  constructor(
    private readonly organisation: Organisation,
    private readonly gate: Gate,
  ) {}

  /** What somebody can see and do with each kind of records, in counts and examples. */
  async of(asker: Actor, person: number): Promise<PersonReach> {
    const actor = await this.mustBeHere(person);
    const objects: ObjectReach[] = [];
    for (const object of permittedObjects()) objects.push(await this.objectOf(asker, actor, object));
    const acts = actsOf(actor);
    const withheld = acts
      .map((act) => ({ act, operations: withheldFrom(actor, act) }))
      .filter(({ operations }) => operations.length > 0);
    return { person, roles: await this.organisation.rolesHeld(person), acts, withheld, objects };
  }

  /** Whether somebody may do something with one record that the asker sees, and what decides. */
  async onRecord(asker: Actor, person: number, object: ObjectKey, id: number): Promise<RecordReach> {
    const actor = await this.mustBeHere(person);
    const record = await this.gate.find(asker, object, id);
    const verdicts: RecordVerdict[] = [];
    for (const operation of operationsOn(object).filter((each) => each !== 'add' && each !== 'import'))
      verdicts.push(await this.verdict(actor, object, record, operation));
    return { person, object, id, name: String(record[objectType(object).nameField]), verdicts };
  }

  /**
   * What a change of a role would mean for those who have it. Nothing is written.
   * @param changes what would differ from the role it began as.
   */
  async preview(key: string, changes: unknown): Promise<RolePreview> {
    const roles = await this.organisation.roles();
    const role = roles.find((each) => each.key === key);
    if (!role) throw notFound('Role');
    const catalogue = await this.organisation.catalogue();
    const { value, faults } = checkRoleChanges(changes, role.basis, catalogue);
    if (!value)
      throw invalidInput(faults.map(({ field, message }) => ({ field: `rules.${field}`, message })));
    const rules = rulesOf(role.basis, value);
    const preview: RolePreview = { people: [], changes: [], acts: [], fields: [] };
    for (const { id, active } of await this.organisation.people()) {
      const before = active ? await this.organisation.actor(id) : undefined;
      const held = await this.organisation.rolesHeld(id);
      if (!before || !held.some((each) => each.key === key)) continue;
      preview.people.push(id);
      await this.compare(preview, before, withRules(before, role.name, rules));
    }
    return preview;
  }

  private async compare(preview: RolePreview, before: Actor, after: Actor): Promise<void> {
    const { personId: person } = before;
    const [was, will] = [policyOf(before), policyOf(after)];
    const catalogue = await this.organisation.catalogue();
    for (const object of permittedObjects()) {
      for (const operation of operationsOn(object)) {
        if (JSON.stringify(was.scope(object, operation)) === JSON.stringify(will.scope(object, operation)))
          continue;
        const counts = await Promise.all(
          [before, after].map((actor) => this.count(actor, object, operation)),
        );
        const change: ReachChange = { person, object, operation, before: counts[0], after: counts[1] };
        if (change.before !== change.after) preview.changes.push(change);
      }
      for (const [field] of fieldsOf(catalogue, object)) {
        const [hid, hides] = [was.hidden(object).has(field), will.hidden(object).has(field)];
        if (hid !== hides) preview.fields.push({ person, object, field, gains: hid });
      }
    }
    const [acted, acts] = [actsOf(before), actsOf(after)];
    for (const act of new Set([...acted, ...acts]))
      if (acted.includes(act) !== acts.includes(act))
        preview.acts.push({ person, act, operation: null, gains: acts.includes(act) });
      else if (acts.includes(act))
        for (const operation of operationsOfPart(act)) {
          const [kept, keeps] = [before, after].map((each) => withheldFrom(each, act).includes(operation));
          if (kept !== keeps) preview.acts.push({ person, act, operation, gains: kept });
        }
  }

  private async objectOf(asker: Actor, actor: Actor, object: ObjectKey): Promise<ObjectReach> {
    const policy = policyOf(actor);
    const counts: Partial<Record<Operation, number>> = {};
    for (const operation of operationsOn(object))
      // What one may add is not counted among what is there.
      if (operation !== 'add' && operation !== 'import')
        counts[operation] = await this.count(actor, object, operation);
    const ids = await this.gate.ids(actor, ask(object), { offset: 0, limit: EXAMPLES * 3 });
    const names = await this.gate.namesOf(asker, object, ids);
    return {
      object,
      total: await this.count(asker, object, 'see'),
      counts,
      said: policy.clauses(object, 'see').map(said),
      shared: (actor.shared.see[object] ?? []).length,
      examples: ids
        .filter((id) => id in names)
        .slice(0, EXAMPLES)
        .map((id) => ({ id, name: names[id] })),
      hidden: [...policy.hidden(object)],
      locked: [...policy.locked(object)].filter((field) => !policy.hidden(object).has(field)),
    };
  }

  private count(actor: Actor, object: ObjectKey, operation: Operation): Promise<number> {
    return policyOf(actor).allows(object, operation)
      ? this.gate.count(actor, ask(object), operation)
      : Promise.resolve(0);
  }

  private async verdict(
    actor: Actor,
    object: ObjectKey,
    { id }: AnyRecord,
    operation: Operation,
  ): Promise<RecordVerdict> {
    const policy = policyOf(actor);
    const clauses = policy.clauses(object, operation);
    const isAllowed = (await this.gate.visibleStored(actor, object, [id], undefined, operation)).has(id);
    const isSeen = isAllowed || (await this.gate.visibleStored(actor, object, [id])).has(id);
    const lets = await this.gate.whichHold(
      actor,
      object,
      id,
      clauses.map(({ scope }) => scope),
    );
    // What an exception means is decided by it, whatever is said of the rest.
    const means = await this.gate.whichHold(
      actor,
      object,
      id,
      clauses.map(({ where }) => where ?? 'all'),
    );
    const isExcepted = new Set(
      clauses.filter(({ where }, index) => where !== undefined && means[index]).map(({ role }) => role),
    );
    const meant = clauses.filter(
      ({ role, where }, index) => means[index] && (where ? true : !isExcepted.has(role)),
    );
    return {
      operation,
      isAllowed,
      said: (isAllowed ? clauses.filter((_, index) => lets[index]) : meant).map(said),
      isShared: (actor.shared[operation === 'see' ? 'see' : 'edit'][object] ?? []).includes(id),
      isUnseen: !isSeen && operation !== 'see',
    };
  }

  private async mustBeHere(person: number): Promise<Actor> {
    const actor = await this.organisation.actor(person);
    if (!actor) throw notFound(`Person ${person}`);
    return actor;
  }
}

/** Somebody as they would be with other rules for a role of theirs. */
const withRules = (actor: Actor, name: string, rules: RoleRules): Actor => ({
  ...actor,
  roles: actor.roles.map((role): HeldRole => (role.name === name ? { name, ...rules } : role)),
});
