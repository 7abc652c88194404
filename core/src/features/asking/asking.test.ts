import { builtIn } from '../../kernel/catalogue';
import { type Wording } from '../../kernel/questions';
import { eachPhrasing } from './phrasings';
import { askedInWords, readTyped, usualRules, type Vocabulary } from '.';

const named = (...names: string[]) => names.map((name, index) => ({ id: index + 1, name }));
const vocabulary: Vocabulary = {
  catalogue: builtIn,
  today: '2026-11-19',
  calendar: { fiscalYearStart: 4, weekStart: 1 },
  currency: 'GBP',
  people: named('Tamsin Rudd', 'Nora Fairlough', 'Davin Marchbank', 'Ewan Castellin', 'Lars Westerholt'),
  teams: named('Harbours & Coast', 'Uplands & Farms', 'Rivers & Power'),
  pipelines: named('New installations', 'Renewals'),
  stages: named(
    'Enquiry checked',
    'Survey booked',
    'Survey done',
    'Proposal out',
    'Terms agreed',
    'Renewal due',
  ),
  lists: [
    { id: 1, name: 'Spring fair', object: 'contact' },
    { id: 2, name: 'To ring', object: 'lead' },
  ],
  views: [],
  rules: usualRules,
};
const nameIn = (all: readonly { id: number; name: string }[], id: number) =>
  all.find((each) => each.id === id)?.name ?? `no ${id}`;
const date = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  timeZone: 'UTC',
});
const wording: Wording = {
  catalogue: builtIn,
  nameOf: (object, id) => {
    const all = {
      person: vocabulary.people,
      team: vocabulary.teams,
      stage: vocabulary.stages,
      pipeline: vocabulary.pipelines,
    };
    return nameIn(all[object as keyof typeof all], id);
  },
  listName: (id) => nameIn(vocabulary.lists, id),
  day: (day) => date.format(new Date(`${day}T00:00:00Z`)),
  money: (amount, currency) => {
    const major = (amount / 100).toLocaleString('en-GB', { maximumFractionDigits: 2 });
    return currency === undefined ? `£${major}` : `${currency} ${major}`;
  },
};
const said = (text: string) => {
  const { asked, unread, noQuestion } = readTyped(text, vocabulary);
  if (noQuestion) return noQuestion.why;
  const left = unread.map(({ from, to }) => text.slice(from, to));
  return `${asked ? askedInWords(asked, wording) : ''}${left.length > 0 ? ` [not read: ${left.join(' | ')}]` : ''}`;
};

describe('what people type', () => {
  it.each(eachPhrasing)('“%s” is read as “%s”', (typed, meant) => {
    expect(said(typed)).toBe(meant);
  });
});
