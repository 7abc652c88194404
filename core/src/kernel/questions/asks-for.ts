import { type Catalogue, type ObjectKey } from '../catalogue';
import { type Question } from './question';
import { runnable } from './runnable';

/** A catalogue in which one of the organisation's own fields is gone. */
function without(catalogue: Catalogue, object: ObjectKey, key: string): Catalogue {
  const { [key]: _gone, ...others } = catalogue.custom[object] ?? {};
  return { ...catalogue, custom: { ...catalogue.custom, [object]: others } };
}

/** Whether a question could no longer be asked in the whole if one of the organisation's own fields were gone. */
export function asksForField(
  catalogue: Catalogue,
  question: Question,
  { object, key }: { object: ObjectKey; key: string },
): boolean {
  const lost = (within: Catalogue) => runnable(question, { catalogue: within, lists: [] }).leftOut.length;
  return lost(without(catalogue, object, key)) > lost(catalogue);
}
