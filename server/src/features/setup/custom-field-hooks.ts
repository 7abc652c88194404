import { IsNull } from 'typeorm';
import {
  ask,
  asksForField,
  catalogueWith,
  choicesIn,
  isObjectKey,
  isValidCustomKey,
  readRules,
  type AnyRecord,
  type CustomField,
  type ObjectKey,
  type RecordOf,
} from '@zawn/core';
import { checkChoices, checkRecord } from '@zawn/core/validation';
import { dialect } from '../../platform/database/dialect';
import { invalidInput, Problem } from '../../platform/http/problem';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { rulesAsking } from './field-usage';

const HAS_CHOICES = ['choice', 'choices'];
/** Types whose every value is a value of the other type too. */
const WIDER: Readonly<Record<string, readonly string[]>> = {
  text: ['longText'],
  web: ['text', 'longText'],
  email: ['text', 'longText'],
  phone: ['text', 'longText'],
};

/** How many records hold a value, those in the bin included: they may come back. */
async function countHolding(unit: Unit, object: ObjectKey, key: string): Promise<number> {
  return unit.manager
    .createQueryBuilder()
    .from(object, 'r')
    .where(`${dialect.jsonValue('r.custom', key)} IS NOT NULL`)
    .getCount();
}

async function checkNewType(unit: Unit, before: AnyRecord, type: string): Promise<void> {
  const now = String(before.type);
  if (type === now || WIDER[now]?.includes(type)) return;
  const count = await countHolding(unit, before.object as ObjectKey, String(before.key));
  if (count === 0) return;
  const message = `${count} ${count === 1 ? 'record holds' : 'records hold'} a value that would be lost. Retire this field and make another`;
  throw invalidInput([{ field: 'type', message }]);
}

/** Whoever sets up the rules hears of those that count for nobody once a field is gone. */
async function tellOfRules(unit: Unit, field: AnyRecord): Promise<void> {
  const own = { object: field.object as CustomField['object'], key: String(field.key) };
  const rules = await rulesAsking(unit.manager, unit.catalogue, own);
  if (rules.length === 0) return;
  for (const person of await unit.whoMay('setUpAssignment'))
    for (const { object, record } of rules)
      unit.pending.add({
        person,
        kind: 'ruleAsleep',
        object,
        record: record as unknown as AnyRecord,
        subject: `“${String(field.label)}”`,
      });
}

/** A role that names a field would permit something else than it says without it. */
async function refuseNamedByRole(unit: Unit, field: AnyRecord): Promise<void> {
  const own = { object: field.object as ObjectKey, key: String(field.key) };
  const roles = await unit.manager.findBy<RecordOf<'role'>>('role', { deletedAt: IsNull() } as object);
  const naming = roles.find(({ basis, rules }) => {
    const { exceptions, fields } = readRules(basis, rules);
    return (
      fields.some(({ object, field: key }) => object === own.object && key === own.key) ||
      exceptions.some(({ object, where }) => asksForField(unit.catalogue, ask(object, where), own))
    );
  });
  if (naming)
    throw new Problem(
      'conflict',
      `The role “${naming.name}” names “${String(field.label)}”. Change the role first. Nothing was changed.`,
    );
}

/** A file is put on a record that is there already: none can begin with one. */
function checkFile({ required, preset }: Values): void {
  if (required)
    throw invalidInput([
      { field: 'required', message: 'A file is added to a record that is there, so it cannot be required' },
    ]);
  if (preset) throw invalidInput([{ field: 'preset', message: 'A new record cannot begin with a file' }]);
}

/** What new records begin with must be a value of the field. */
function checkPreset(field: CustomField): void {
  if (!field.preset) return;
  const customFields = [{ ...field, preset: null, required: false, retired: false }];
  const catalogue = catalogueWith({ customFields, choiceLists: [] });
  const locale = { country: 'GB' };
  const check = { object: field.object, purpose: 'change', setter: 'hand', locale, catalogue } as const;
  checkedJson(field.preset, 'preset', 'Begins as', (raw) => {
    const { value, faults } = checkRecord(check, { [field.key]: raw });
    return value
      ? { value, faults: [] }
      : { value: undefined, faults: faults.map(({ message }) => ({ field: '', message })) };
  });
}

/** What writing a custom field means: a key that no other field has, and no value lost by changing it. */
export const customFieldHooks: RecordHooks = {
  object: 'customField',
  async beforeWrite(unit, next, before) {
    if (!before && !isValidCustomKey(String(next.key))) {
      const message = 'The key of a custom field begins with x_ and a small letter, such as x_berths';
      throw invalidInput([{ field: 'key', message }]);
    }
    if (!before) {
      const taken = await unit.manager.findOneBy<{ label: string; object: string; key: string }>(
        'customField',
        {
          object: String(next.object),
          key: String(next.key),
        },
      );
      if (taken)
        throw invalidInput([{ field: 'key', message: `This key belongs to “${taken.label}” already` }]);
    }
    if (next.retired === true && before?.retired === false && unit.undoes === undefined)
      await refuseNamedByRole(unit, before);
    if (before && typeof next.type === 'string') await checkNewType(unit, before, next.type);
    const field = { ...before, ...next };
    if (HAS_CHOICES.includes(String(field.type))) {
      const known = before ? choicesIn(before.choices as string | null) : [];
      // Kept as pairs once, or with what is said of each; both are read.
      const raw = next.choices === undefined ? field.choices : next.choices;
      const text = JSON.stringify(choicesIn(raw as string | null));
      next.choices = checkedJson(text, 'choices', 'Choices', (each) => checkChoices(each, {}, known)).text;
    }
    if (next.preset !== undefined || next.type !== undefined || next.choices !== undefined)
      checkPreset({ ...field, ...next } as unknown as CustomField);
    if (field.type === 'file') checkFile(field);
    if (field.type === 'link' && !isObjectKey(field.to))
      throw invalidInput([{ field: 'to', message: 'What it links to is missing' }]);
  },
  async afterWrite(unit, after, before) {
    if (after.retired && before?.retired === false) await tellOfRules(unit, after);
  },
  beforeRemove: refuseNamedByRole,
  async afterRemove(unit, field) {
    if (!field.retired) await tellOfRules(unit, field);
  },
};
