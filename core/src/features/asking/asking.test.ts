import { builtIn, catalogueWith } from '../../kernel/catalogue';
import { ownField } from '../../kernel/catalogue/testing';
import { type Wording } from '../../kernel/questions';
import { checkDesign } from '../../kernel/validation/design-schema';
import { checkReport } from '../reports/report-schema';
import { type ReportDesign } from '../reports/report';
import { eachPhrasing } from './phrasings';
import { askedInWords, Meanings, readTyped, shownAsked, suggestWords, usualRules, type Vocabulary } from '.';

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
const meanings = new Meanings(vocabulary);
const said = (text: string) => {
  const { asked, unread, noQuestion } = readTyped(text, vocabulary, meanings);
  if (noQuestion) return noQuestion.why;
  const left = unread.map(({ from, to }) => text.slice(from, to));
  return `${asked ? askedInWords(asked, wording) : ''}${left.length > 0 ? ` [not read: ${left.join(' | ')}]` : ''}`;
};

describe('what people type', () => {
  it.each(eachPhrasing)('“%s” is read as “%s”', (typed, meant) => {
    expect(said(typed)).toBe(meant);
  });
});

describe('what is not understood', () => {
  const unread = (text: string) =>
    readTyped(text, vocabulary).unread.map(({ from, to }) => text.slice(from, to));

  it.each<[string, string[]]>([
    ['deals frobnicated by owner', ['frobnicated']],
    ['open deals with more than 3 wheels', ['more than 3 wheels']],
    ['zeig mir alle offenen Deals', ['zeig mir alle offenen']],
    ['DROP TABLE deals; --', ['DROP TABLE', '--']],
    ['🦆 deals', ['🦆']],
    ['deals over', ['over']],
    ['deals created but not closed last month', ['created']],
    ['deals expected to close but lost this quarter', ['expected']],
    ['deals by', ['by']],
    ['deals not frobnicated in Sweden', ['not frobnicated']],
    ['deals in Sweden but not', ['not']],
    // Beside another period such records would be looked for at the wrong time.
    ['deals won before March compared with last year', ['compared with last year']],
    ['deals created this month and won this month vs last month', ['vs last month']],
    ['accounts with calls this month compared with last month', ['compared with last month']],
    ['won value this month vs March', ['vs March']],
    ['won value vs 2025', ['vs 2025']],
    ['won value this month vs last quarter', ['vs last quarter']],
    ['deals closing around 12 December', ['around']],
    ['about 20 deals', ['about 20']],
    ['who has called Tarnwick', ['who has called Tarnwick']],
    ['who has this deal', ['who has this deal']],
    ['pipeline vs last month', ['vs last month']],
    ['deals over the average rate', ['over', 'average rate']],
    ['who has access', ['who has access']],
    ['who has no calls this week', ['who has no calls this week']],
    ['top 3 accounts by won value with wings', ['top 3 accounts by won value with wings']],
  ])('“%s” is named: %j', (text, words) => {
    expect(unread(text)).toEqual(words);
  });

  it('leaves no question where nothing says what is asked for', () => {
    const { asked, unread: left } = readTyped('purple elephants', vocabulary);
    expect(asked).toBeUndefined();
    expect(left).toEqual([{ from: 0, to: 16 }]);
  });

  it.each([
    ['deals near Bergen', 'How far'],
    ['accounts within 50 km of Oslo', 'How far'],
    ['which deals will we win', 'What will happen'],
    ['predict revenue next quarter', 'What will happen'],
    ['what should I do with this deal', 'advice'],
  ])('“%s” is said to be no question of the records', (text, why) => {
    const { noQuestion, asked } = readTyped(text, vocabulary);
    expect(noQuestion?.why).toContain(why);
    expect(asked).toBeUndefined();
  });

  it('reads no text that is longer than a question', () => {
    const started = performance.now();
    const { noQuestion } = readTyped('open deals '.repeat(10_000), vocabulary);
    expect(noQuestion?.why).toContain('at most 1000 letters');
    expect(performance.now() - started).toBeLessThan(50);
  });

  it.each(['', '   ', '"', '“', '’s', ',,,', 'a', '((((', '%', '\\', '\u0000', 'deals '.repeat(160)])(
    'takes %j without failing',
    (text) => {
      expect(readTyped(text, vocabulary).noQuestion).toBeUndefined();
    },
  );
});

describe('words whose meaning depends on the organisation', () => {
  const left = (text: string, more: Partial<Vocabulary>) =>
    readTyped(text, { ...vocabulary, ...more }).unread.map(({ from, to }) => text.slice(from, to));

  it('names weeks by their numbers only where weeks begin on a Monday', () => {
    expect(left('deals closing in week 48', {})).toEqual([]);
    const calendar = { fiscalYearStart: 4, weekStart: 0 } as const;
    expect(left('deals closing in week 48', { calendar })).toEqual(['week 48']);
    expect(left('deals closing in week 54', {})).toEqual(['week 54']);
  });
});

describe('words at the edge of a text', () => {
  it.each([
    [
      'top deals closed in 2025',
      'Deals where closed on is between 1 Jan 2025 and 31 Dec 2025, in order of value highest first',
    ],
    ['newest leads over 10', 'Leads where budget is above £10, in order of created latest first'],
  ])('“%s” is read as “%s”', (typed, meant) => {
    expect(said(typed)).toBe(meant);
  });

  it('takes nobody who is called Will for what will be', () => {
    const people = [{ id: 9, name: 'Will Harrow' }];
    const { asked } = readTyped('deals of Will Harrow', { ...vocabulary, people });
    expect(asked?.question.where).toEqual({ field: 'owner', is: 'anyOf', value: [9] });
  });
});

describe('what has two readings', () => {
  const doubts = (text: string, rules = usualRules) =>
    readTyped(text, { ...vocabulary, rules }).doubtful.map(({ as, others }) => [
      as,
      ...others.map((other) => other.as),
    ]);

  it.each<[string, string[][]]>([
    ['deals won this year', [['this fiscal year', 'this calendar year']]],
    ['deals won this fiscal year', []],
    ['deals closing 10/12', [['2026-12-10', '2026-10-12']]],
    ['deals closing 13/12', []],
    ['customers', [['accounts whose relationship is Customer', 'accounts with a won deal']]],
    ['deals with Nora', [['owned by Nora', 'with an activity that Nora did']]],
    ['deals of Nora', []],
    [
      'deals with Nora closing 10/12',
      [
        ['owned by Nora', 'with an activity that Nora did'],
        ['2026-12-10', '2026-10-12'],
      ],
    ],
    // Also where it was put in other words to be read.
    ['who won the most this year', [['this fiscal year', 'this calendar year']]],
    ['partner contacts', []],
    ['calls this month', [['due this month', 'done this month']]],
    ['calls made this month', []],
    ['calls last month', []],
  ])('“%s”: %j', (text, expected) => {
    expect(doubts(text)).toEqual(expected);
  });

  it('is read by the rules of the organisation', () => {
    const as = (text: string, rules: Partial<typeof usualRules>) => {
      const { asked } = readTyped(text, { ...vocabulary, rules: { ...usualRules, ...rules } });
      return asked && askedInWords(asked, wording);
    };
    expect(as('deals won this year', { year: 'calendar' })).toBe(
      'Deals where outcome is Won and closed on is in this year',
    );
    expect(as('deals closing 10/12', { date: 'monthFirst' })).toBe('Deals where close date is 12 Oct 2026');
    expect(as('customers', { customers: 'won' })).toBe('Accounts where there are deals where outcome is Won');
    expect(as('deals with Nora', { with: 'did' })).toBe(
      'Deals where there are activities where done by is Nora Fairlough',
    );
    // Its own words say which, whatever the rule.
    expect(as('deals won this fiscal year', { year: 'calendar' })).toBe(
      'Deals where outcome is Won and closed on is in this fiscal year',
    );
  });

  it('offers each field that a word is a choice of', () => {
    const { doubtful, asked } = readTyped('partner leads', vocabulary);
    expect(asked && askedInWords(asked, wording)).toBe('Leads where source is Partner');
    const [{ others }] = doubtful;
    const { asked: other } = readTyped(others[0].text ?? '', vocabulary);
    expect(other && askedInWords(other, wording)).toBe('Leads where account made’s relationship is Partner');
  });
});

describe('an organisation’s own words', () => {
  const own = catalogueWith({
    customFields: [
      ownField({
        object: 'deal',
        key: 'x_hull',
        label: 'Hull',
        type: 'choice',
        choices: '[["steel","Steel"],["oak","Oak wood"]]',
      }),
      ownField({ object: 'account', key: 'x_berths', label: 'Berths', type: 'number' }),
    ],
    choiceLists: [],
  });
  const read = (text: string) => {
    const { asked, unread } = readTyped(text, { ...vocabulary, catalogue: own });
    expect(unread).toEqual([]);
    return asked && askedInWords(asked, { ...wording, catalogue: own });
  };

  it('are read like those that come with Zawn', () => {
    expect(read('steel deals by hull')).toBe('Deals where hull is Steel, grouped by hull');
    expect(read('deals in oak wood over 10k')).toBe(
      'Deals where hull is Oak wood and value is above £10,000',
    );
    expect(read('accounts with more than 20 berths')).toBe('Accounts where berths is above 20');
    expect(read('accounts with berths over 20')).toBe('Accounts where berths is above 20');
  });
});

describe('a view that is kept', () => {
  it('is what it asks for, within another question', () => {
    const where = { field: 'value', is: 'above', value: 2_500_000 } as const;
    const views = [
      {
        id: 1,
        name: 'Large ones',
        object: 'deal' as const,
        question: { version: 1 as const, object: 'deal' as const, where },
      },
    ];
    const { asked, unread } = readTyped('open deals in the view large ones by owner', {
      ...vocabulary,
      views,
    });
    expect(unread).toEqual([]);
    expect(asked && askedInWords(asked, wording)).toBe(
      'Deals where outcome is Open and value is above £25,000, grouped by owner',
    );
  });
});

describe('what was asked', () => {
  const shown = (text: string) => {
    const { asked } = readTyped(text, vocabulary, meanings);
    if (!asked) throw new Error(text);
    return shownAsked(asked, builtIn);
  };

  it.each(eachPhrasing)('“%s” is shown as it can be kept', (typed) => {
    const as = shown(typed);
    const { faults } = 'view' in as ? checkDesign(as.view, builtIn) : checkReport(as.report, builtIn);
    expect(faults).toEqual([]);
  });

  it('is a report beside another time, of the period that was named', () => {
    expect(shown('won value this quarter against last quarter')).toEqual({
      report: {
        version: 1,
        question: {
          version: 1,
          object: 'deal',
          where: { field: 'outcome', is: 'anyOf', value: ['won'] },
          groups: [],
        },
        period: { field: 'closedOn', in: { unit: 'fiscalQuarter', offset: 0 } },
        figures: [
          { key: 'a', measure: { as: 'sum', of: 'value' } },
          { key: 'before', past: 'a', of: 'before' },
          { key: 'change', change: 'a', against: 'before', as: 'percent' },
        ],
        draw: 'figure',
      },
    });
  });

  it.each([
    ['won value in 2026 vs 2025', { from: '2026-01-01', to: '2026-12-31' }, 'yearBefore'],
    ['won value 2025 vs 2026', { from: '2026-01-01', to: '2026-12-31' }, 'yearBefore'],
    ['won value October vs September', { from: '2026-10-01', to: '2026-10-31' }, 'before'],
    ['won value since March vs last year', { from: '2026-03-01', to: '2026-11-19' }, 'yearBefore'],
  ])('“%s” is of the days that were named, which are no condition of both', (text, days, of) => {
    const { report } = shown(text) as { report: ReportDesign };
    expect(report.period).toEqual({ field: 'closedOn', in: days });
    expect(report.question.where).toEqual({ field: 'outcome', is: 'anyOf', value: ['won'] });
    expect(report.figures[1]).toEqual({ key: 'before', past: 'a', of });
  });

  it('has the rate at which leads are converted with what it is made of', () => {
    expect(shown('conversion rate by source')).toMatchObject({
      report: { drawn: 'rate', figures: [{ key: 'leads' }, { key: 'converted' }, { key: 'rate' }] },
    });
  });

  it('is a list of records, or a drawing of groups', () => {
    expect(shown('open deals over 25k')).toMatchObject({ view: { draw: 'table' } });
    expect(shown('value by rep this quarter')).toMatchObject({ view: { draw: 'columns' } });
    expect(shown('top 5 accounts by won value')).toMatchObject({
      report: { top: 5, order: { figure: 'a', descending: true } },
    });
    // What a page of figures cannot be drawn as is a report.
    expect(shown('open deals by stage as a pie')).toMatchObject({ report: { draw: 'share' } });
    expect(shown('pipeline as a funnel')).toMatchObject({ report: { draw: 'funnel' } });
  });
});

describe('suggestions while typing', () => {
  const suggested = (text: string) =>
    suggestWords(text, vocabulary, new Meanings(vocabulary)).map(({ words }) => words);

  it('go on with names, fields and choices of the object', () => {
    expect(suggested('deals by sta')).toEqual(['stage']);
    expect(suggested('deals of No')).toContain('Nora Fairlough');
    expect(suggested('leads from tra')).toEqual(['Trade fair']);
    expect(suggested('deals in sur')).toEqual(expect.arrayContaining(['Survey done', 'Survey booked']));
  });

  it('are none behind a whole word or a number', () => {
    expect(suggested('deals ')).toEqual([]);
    expect(suggested('deals over 25')).toEqual([]);
  });
});

describe('a question read', () => {
  it('takes less than five milliseconds in the middle, the words of the organisation known', () => {
    const times = eachPhrasing
      .map(([typed]) => {
        const started = performance.now();
        readTyped(typed, vocabulary, meanings);
        return performance.now() - started;
      })
      .sort((a, b) => a - b);
    expect(times[Math.floor(times.length / 2)]).toBeLessThan(5);
  });
});
