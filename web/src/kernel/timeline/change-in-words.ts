import {
  choiceLabel,
  fieldOf,
  objectType,
  type Catalogue,
  type Field,
  type FieldValue,
  type LoggedChange,
} from '@zawn/core';

/** How the values of a change are written out. */
export interface ChangeWording {
  catalogue: Catalogue;
  /** What a linked record is called, where that is known without asking. */
  named: (object: string | undefined, id: number) => string | undefined;
  day: (day: string) => string;
  /** The day an instant falls on. */
  dayOf: (instant: string) => string;
  money: (amount: number) => string;
}

function valueInWords(field: Field, value: FieldValue, wording: ChangeWording): string | undefined {
  if (value === null) return 'empty';
  switch (field.type) {
    case 'choice':
      return choiceLabel(field, String(value));
    case 'choices':
    case 'tags':
      return (value as readonly string[]).map((key) => choiceLabel(field, key)).join(', ');
    case 'yesNo':
      return value ? 'yes' : 'no';
    case 'dateTime':
      return wording.day(wording.dayOf(String(value)));
    case 'date':
      return wording.day(String(value));
    case 'money':
      return wording.money(Number(value));
    case 'percent':
      return `${Number(value)} %`;
    case 'link':
      return wording.named(field.to, Number(value));
    case 'longText':
      return undefined;
    default:
      return String(value);
  }
}

const parse = (json: string | null) => JSON.parse(json ?? 'null') as FieldValue;

/** One changed field as a sentence: “Close date was 14 Mar 2026, now 2 May 2026”. */
function fieldInWords(change: LoggedChange, wording: ChangeWording): string {
  const field = change.field ? fieldOf(wording.catalogue, change.object, change.field) : undefined;
  if (!field) return 'A field that is no longer there changed';
  const before = valueInWords(field, parse(change.old), wording);
  const after = valueInWords(field, parse(change.new), wording);
  if (change.field === 'outcome') {
    if (after === 'Open') return 'Reopened';
    return after ?? 'Closed';
  }
  if (change.field === 'stage') return `Stage moved from ${before} to ${after}`;
  if (before === undefined || after === undefined) return `${field.label} changed`;
  if (change.old === 'null') return `${field.label} is now ${after}`;
  return change.new === 'null'
    ? `${field.label} was ${before}, now empty`
    : `${field.label} was ${before}, now ${after}`;
}

/** A deal's ending as one sentence: “Lost: Price, to Pentrose Metering”. */
function endingInWords(changes: readonly LoggedChange[], catalogue: Catalogue): string | undefined {
  const after = new Map(changes.map(({ field, new: value }) => [field, parse(value)]));
  const outcome = after.get('outcome');
  if (outcome !== 'won' && outcome !== 'lost') return undefined;
  const labelled = (key: string) => {
    const field = fieldOf(catalogue, 'deal', key);
    const values = [after.get(key) ?? []].flat();
    return values.map((value) => choiceLabel(field, String(value)));
  };
  const because =
    outcome === 'won'
      ? [...labelled('wonReasons'), after.get('wonBecause')]
      : [...labelled('lossReason'), ...labelled('lostTo').map((name) => `to ${name}`)];
  const said = because.filter(Boolean).join(', ');
  return [outcome === 'won' ? 'Won' : 'Lost', said].filter(Boolean).join(': ');
}

const through: Record<string, string> = {
  bulk: ', with others at once',
  import: ' by import',
  merge: ' by merging',
  conversion: ' by conversion',
  undo: ', undoing an earlier change',
};

/** Changes of one record made together, as one or several sentences joined by semicolons. */
export function changesInWords(changes: readonly LoggedChange[], wording: ChangeWording): string {
  const [first] = changes;
  const way = through[first.through] ?? '';
  if (first.kind !== 'changed') return `${objectType(first.object).label} ${first.kind}${way}`;
  const converted =
    first.object === 'lead' &&
    changes.some(({ field, new: after }) => field === 'status' && after === '"converted"');
  if (converted) return 'Lead converted';
  const ended = endingInWords(changes, wording.catalogue);
  if (ended) return ended;
  return (
    changes.map((change) => fieldInWords(change, wording)).join('; ') + (first.through === 'undo' ? way : '')
  );
}
