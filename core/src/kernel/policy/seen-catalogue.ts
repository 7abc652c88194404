import {
  fieldsOf,
  objectKeys,
  type AnyRecord,
  type Catalogue,
  type Field,
  type ObjectKey,
} from '../catalogue';
import { pathsIn } from '../catalogue/formula';
import { type Policy } from './policy';

/** The keys that nobody may be told once some are hidden: those, and whatever is computed from them. */
function unseenOf(catalogue: Catalogue, object: ObjectKey, hidden: ReadonlySet<string>): ReadonlySet<string> {
  if (hidden.size === 0) return hidden;
  const unseen = new Set(hidden);
  for (let size = -1; size !== unseen.size;) {
    size = unseen.size;
    for (const [key, { formula }] of fieldsOf(catalogue, object))
      if (formula && pathsIn(formula).some((path) => unseen.has(path))) unseen.add(key);
  }
  return unseen;
}

const kept = new WeakMap<Catalogue, Map<string, Catalogue>>();
const seenBy = new WeakMap<Policy, WeakMap<Catalogue, Catalogue>>();

/**
 * The catalogue as a person sees it: without the fields that are hidden from them and whatever is computed from those,
 * and with those they may not change settable only on a new record. The same value for everyone who sees the same.
 */
export function seenCatalogue(catalogue: Catalogue, policy: Policy): Catalogue {
  const ofPolicy = seenBy.get(policy) ?? new WeakMap<Catalogue, Catalogue>();
  seenBy.set(policy, ofPolicy);
  let seen = ofPolicy.get(catalogue);
  if (!seen) ofPolicy.set(catalogue, (seen = makeSeen(catalogue, policy)));
  return seen;
}

function makeSeen(catalogue: Catalogue, policy: Policy): Catalogue {
  const rules = objectKeys
    .map((object) => ({
      object,
      unseen: unseenOf(catalogue, object, policy.hidden(object)),
      locked: policy.locked(object),
    }))
    .filter(({ unseen, locked }) => unseen.size + locked.size > 0);
  if (rules.length === 0) return catalogue;
  const name = JSON.stringify(
    rules.map(({ object, unseen, locked }) => [object, [...unseen].sort(), [...locked].sort()]),
  );
  const known = kept.get(catalogue) ?? new Map<string, Catalogue>();
  kept.set(catalogue, known);
  let seen = known.get(name);
  if (!seen) {
    const own = { ...catalogue.own };
    const custom = { ...catalogue.custom };
    for (const { object, unseen, locked } of rules) {
      const kept = (fields: Readonly<Record<string, Field>>) =>
        Object.fromEntries(
          Object.entries(fields)
            .filter(([key]) => !unseen.has(key))
            .map(([key, field]) => [
              key,
              locked.has(key) && (field.set ?? 'edit') === 'edit'
                ? { ...field, set: 'once' as const }
                : field,
            ]),
        );
      own[object] = kept(own[object]);
      if (custom[object]) custom[object] = kept(custom[object]);
    }
    known.set(name, (seen = { own, custom }));
  }
  return seen;
}

/** A record without the fields that a person does not see, those computed from hidden ones among them. */
export function asSeen(
  policy: Policy,
  catalogue: Catalogue,
  object: ObjectKey,
  record: AnyRecord,
): AnyRecord {
  const seen = seenCatalogue(catalogue, policy);
  if (seen === catalogue) return record;
  const shown = new Set(fieldsOf(seen, object).map(([key]) => key));
  const unseen = new Set(fieldsOf(catalogue, object).flatMap(([key]) => (shown.has(key) ? [] : key)));
  return Object.fromEntries(Object.entries(record).filter(([key]) => !unseen.has(key))) as AnyRecord;
}
