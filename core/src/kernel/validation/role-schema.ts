import Joi from 'joi';
import {
  fieldAt,
  fieldOf,
  objectKeys,
  objectType,
  relationOf,
  type Catalogue,
  type ObjectKey,
} from '../catalogue';
import {
  acts,
  isWider,
  operationLabels,
  operations,
  operationsOfPart,
  operationsOn,
  permittedObjects,
  reachLabels,
  reaches,
  rulesOf,
  type RoleChanges,
} from '../policy';
import { ask, isGroup, isRelated, leftOutInWords, pathsOfTest, runnable, type Condition } from '../questions';
import { checkRule } from './question-schema';
import { checkAgainst, type Checked, type Fault } from './record-schema';

const MOST_EXCEPTIONS = 40;
const MOST_FIELDS = 400;

const reach = Joi.string().valid(...reaches);

const reachOf = (object: ObjectKey) =>
  Joi.object(Object.fromEntries(operationsOn(object).map((operation) => [operation, reach])));

const object = Joi.string().valid(...permittedObjects());

const schema = Joi.object<RoleChanges>({
  reach: Joi.object(Object.fromEntries(permittedObjects().map((each) => [each, reachOf(each)]))),
  acts: Joi.object(Object.fromEntries(acts.map((act) => [act, Joi.boolean()]))),
  withheld: Joi.object(
    Object.fromEntries(
      acts.flatMap((act) => {
        const operations = operationsOfPart(act);
        return operations.length === 0
          ? []
          : [
              [
                act,
                Joi.array()
                  .items(Joi.string().valid(...operations))
                  .unique(),
              ],
            ];
      }),
    ),
  ),
  exceptions: Joi.array()
    .max(MOST_EXCEPTIONS)
    .items(
      Joi.object({
        object: object.required(),
        operations: Joi.array()
          .items(Joi.string().valid(...operations))
          .min(1)
          .unique()
          .required(),
        where: Joi.object().required(),
        reach: reach.required(),
      }),
    ),
  fields: Joi.array()
    .max(MOST_FIELDS)
    .items(
      Joi.object({
        object: Joi.string()
          .valid(...objectKeys)
          .required(),
        field: Joi.string().max(60).required(),
        may: Joi.string().valid('nothing', 'see').required(),
      }),
    )
    .unique(
      (a: { object: string; field: string }, b: { object: string; field: string }) =>
        a.object === b.object && a.field === b.field,
    ),
});

/** Fields that records cannot do without: the name, who owns it, and the money that an amount is in. */
function mustBeSeen(catalogue: Catalogue, object: ObjectKey, key: string): boolean {
  const { nameField, fields } = objectType(object);
  if (key === nameField || key === 'owner') return true;
  return (
    Object.values(fields).some(({ currency }) => currency === key) &&
    fieldOf(catalogue, object, key) !== undefined
  );
}

function asksForLists(object: ObjectKey, condition: Condition, catalogue: Catalogue): boolean {
  if (isGroup(condition)) return condition.of.some((part) => asksForLists(object, part, catalogue));
  if (isRelated(condition)) {
    const hub = condition.via ? (fieldAt(catalogue, object, condition.via)?.to as ObjectKey) : object;
    const relation = relationOf(catalogue, hub, condition.related);
    return !!relation && !!condition.where && asksForLists(relation.object, condition.where, catalogue);
  }
  return pathsOfTest(condition).some((path) => fieldAt(catalogue, object, path)?.type === 'lists');
}

/**
 * Checks what a role differs in from the one it began as: its shape, that nothing is permitted of what is not seen, and
 * that its exceptions and fields are of the catalogue.
 */
export function checkRoleChanges(value: unknown, basis: string, catalogue: Catalogue): Checked<RoleChanges> {
  const checked = checkAgainst(schema, value);
  if (!checked.value) return checked;
  const faults: Fault[] = [];
  const rules = rulesOf(basis, checked.value);
  for (const each of permittedObjects()) {
    const { see = 'none', ...others } = rules.reach[each] ?? {};
    for (const [operation, to] of Object.entries(others))
      if (isWider(to, see))
        faults.push({
          field: `reach.${each}.${operation}`,
          message: `${objectType(each).plural}: ${operationLabels[operation as keyof typeof others]} is ${reachLabels[to].toLowerCase()}, but only ${reachLabels[see].toLowerCase()} can be seen`,
        });
  }
  for (const [index, exception] of rules.exceptions.entries()) {
    const at = `exceptions.${index}`;
    const found = checkRule(ask(exception.object, exception.where), catalogue);
    faults.push(
      ...found.faults.map(({ field, message }) => ({
        field: `${at}.${field}`,
        message: `Exception ${index + 1}: ${message}`,
      })),
    );
    // Lists are looked at below: here none is known.
    const gone = found.value
      ? runnable(found.value, { catalogue, lists: [] }).leftOut.filter(
          ({ reason }) => reason === 'unknownField',
        )
      : [];
    faults.push(
      ...gone.map((part) => ({
        field: `${at}.where`,
        message: `Exception ${index + 1}: ${leftOutInWords(part)}`,
      })),
    );
    if (found.value && gone.length === 0 && asksForLists(exception.object, exception.where, catalogue))
      faults.push({
        field: `${at}.where`,
        message: `Exception ${index + 1}: a list is its owner’s to change, so it cannot say who may see what`,
      });
    const unknown = exception.operations.filter((each) => !operationsOn(exception.object).includes(each));
    if (unknown.length > 0)
      faults.push({
        field: `${at}.operations`,
        message: `Exception ${index + 1}: “${operationLabels[unknown[0]]}” cannot be said of ${objectType(exception.object).plural.toLowerCase()}`,
      });
  }
  for (const [index, { object: of, field: key, may }] of rules.fields.entries()) {
    const field = fieldOf(catalogue, of, key);
    const at = `fields.${index}`;
    const label = `${objectType(of).label}: ${field?.label ?? key}`;
    if (!field) faults.push({ field: at, message: `${objectType(of).label} has no field “${key}”` });
    else if (may === 'nothing' && mustBeSeen(catalogue, of, key))
      faults.push({
        field: at,
        message: `${label} cannot be hidden: no record is told from another without it`,
      });
    else if (may === 'nothing' && field.required && (rules.reach[of]?.add ?? 'none') !== 'none')
      faults.push({ field: at, message: `${label} is required, so whoever adds one must see it` });
  }
  return faults.length > 0 ? { value: undefined, faults } : checked;
}
