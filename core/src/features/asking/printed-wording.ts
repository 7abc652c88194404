import { type ObjectKey } from '../../kernel/catalogue';
import { type Wording } from '../../kernel/questions';
import { minorDigits, toMajor } from '../../platform/money';
import { type Vocabulary } from './reading';

export const monthNames = [
  'Jan',
  'Feb',
  'Mar',
  'Apr',
  'May',
  'Jun',
  'Jul',
  'Aug',
  'Sep',
  'Oct',
  'Nov',
  'Dec',
] as const;

/** The records of an object that are known by name, where those are known. */
export function namedOf(vocabulary: Vocabulary, object: ObjectKey): readonly { id: number; name: string }[] {
  switch (object) {
    case 'person':
      return vocabulary.people;
    case 'team':
      return vocabulary.teams;
    case 'pipeline':
      return vocabulary.pipelines;
    case 'stage':
      return vocabulary.stages;
    default:
      return [];
  }
}

/** A name where it is one record’s alone; its number else. */
function nameIn(all: readonly { id: number; name: string }[], id: number): string {
  const found = all.find((each) => each.id === id);
  const isAlone = found && all.filter(({ name }) => name === found.name).length === 1;
  return isAlone ? found.name : `#${id}`;
}

/**
 * Words that can be read back: whole names, numbers of records whose names are not known, exact amounts and days. An
 * amount without a currency is one in that of reports.
 */
export const printedWording = (vocabulary: Vocabulary): Wording => ({
  catalogue: vocabulary.catalogue,
  nameOf: (object, id) => nameIn(namedOf(vocabulary, object), id),
  listName: (id) => nameIn(vocabulary.lists, id),
  day: (day) => {
    const [year, month, date] = day.split('-').map(Number);
    return `${date} ${monthNames[month - 1]} ${year}`;
  },
  money: (amount, currency) => {
    const code = currency ?? vocabulary.currency;
    const digits = minorDigits(code);
    const figure = toMajor(amount, code).toLocaleString('en-GB', {
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
    });
    return currency === undefined ? figure : `${currency} ${figure}`;
  },
});
