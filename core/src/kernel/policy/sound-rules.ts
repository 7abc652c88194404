import { type Catalogue } from '../catalogue';
import { runnable } from '../questions/runnable';
import { type RoleException, type RoleRules } from './role-rules';

const isAskable = ({ object, where }: RoleException, catalogue: Catalogue): boolean =>
  runnable({ version: 1, object, where }, { catalogue, lists: [] }).leftOut.length === 0;

const kept = new WeakMap<RoleRules, { catalogue: Catalogue; sound: RoleRules }>();

/**
 * The rules as far as they can be asked. Of an object with an exception that asks about a field that is gone, nothing is
 * permitted any more of what the exception is about: what it narrowed must not lie open.
 */
export function soundRules(rules: RoleRules, catalogue: Catalogue): RoleRules {
  const known = kept.get(rules);
  if (known?.catalogue === catalogue) return known.sound;
  const broken = rules.exceptions.filter((exception) => !isAskable(exception, catalogue));
  const isClosed = (object: string, operation: string) =>
    broken.some((each) => each.object === object && each.operations.some((other) => other === operation));
  const sound: RoleRules =
    broken.length === 0
      ? rules
      : {
          ...rules,
          reach: Object.fromEntries(
            Object.entries(rules.reach).map(([object, row]) => [
              object,
              Object.fromEntries(
                Object.entries(row).map(([operation, reach]) => [
                  operation,
                  isClosed(object, operation) ? 'none' : reach,
                ]),
              ),
            ]),
          ),
          exceptions: rules.exceptions
            .filter((exception) => !broken.includes(exception))
            .map((exception) => ({
              ...exception,
              operations: exception.operations.filter((operation) => !isClosed(exception.object, operation)),
            })),
        };
  kept.set(rules, { catalogue, sound });
  return sound;
}
