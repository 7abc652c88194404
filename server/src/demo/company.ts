import {
  addMonths,
  choiceListOf,
  periodOf,
  startOfMonth,
  toMinor,
  type ChoiceListKey,
  type Day,
} from '@zawn/core';
import { type Book, type Happening } from './book';
import { type Random } from './random';
import { competitors, ownChoices } from './words';

/** How a rep works, which is why their figures differ. */
export interface Rep {
  id: number;
  team: 'coast' | 'rivers' | 'uplands';
  /** Multiplies how long deals stay in a stage. */
  pace: number;
  /** Added to the likelihood of getting past each stage. */
  skill: number;
  /** Likelihood that a next step is planned and outcomes are written down. */
  discipline: number;
  /** Likelihood that a close date is pushed when it comes near. */
  slips: number;
  /** Quarterly target in pounds. */
  target: number;
}

export interface Stage {
  id: number;
  probability: number;
  usualDays: number;
}

export interface Company {
  reps: Rep[];
  /** Stages of each pipeline in order. */
  pipelines: { id: number; stages: Stage[] }[];
}

export const ORGANISATION = {
  name: 'Brackwater Instruments',
  currency: 'GBP',
  fiscalYearStart: 4,
  keepSignIns: 180,
  weekStart: 1,
  timeZone: 'Europe/London',
  country: 'GB',
};

const teams = { coast: 'Harbours & Coast', rivers: 'Rivers & Power', uplands: 'Uplands & Farms' } as const;

const leaders = [
  ['Maren Ollerby', 'coast'],
  ['Conor Wansbeck', 'rivers'],
  ['Ylva Thornquist', 'uplands'],
] as const;

const reps: [name: string, team: Rep['team'], traits: Omit<Rep, 'id' | 'team'>][] = [
  ['Tamsin Rudd', 'coast', { pace: 0.85, skill: 0.06, discipline: 0.92, slips: 0.25, target: 98_000 }],
  ['Ewan Castellin', 'coast', { pace: 1.1, skill: 0, discipline: 0.75, slips: 0.5, target: 92_000 }],
  ['Nora Fairlough', 'coast', { pace: 0.95, skill: 0.03, discipline: 0.85, slips: 0.35, target: 85_000 }],
  ['Davin Marchbank', 'coast', { pace: 1.3, skill: -0.05, discipline: 0.55, slips: 0.65, target: 75_000 }],
  ['Greta Lindqvell', 'rivers', { pace: 0.9, skill: 0.05, discipline: 0.9, slips: 0.3, target: 120_000 }],
  ['Hamish Carnmoor', 'rivers', { pace: 1.15, skill: -0.02, discipline: 0.7, slips: 0.5, target: 105_000 }],
  ['Rosa Penhallow', 'rivers', { pace: 1, skill: 0.02, discipline: 0.8, slips: 0.4, target: 100_000 }],
  ['Lars Westerholt', 'uplands', { pace: 0.95, skill: 0.03, discipline: 0.85, slips: 0.35, target: 58_000 }],
  ['Niamh Kilbrannan', 'uplands', { pace: 1.05, skill: 0.01, discipline: 0.8, slips: 0.45, target: 52_000 }],
  ['Otto Zetterlund', 'uplands', { pace: 1.25, skill: -0.04, discipline: 0.6, slips: 0.6, target: 45_000 }],
];

const pipelines: [name: string, stages: [name: string, probability: number, usualDays: number][]][] = [
  [
    'Station sales',
    [
      ['Enquiry checked', 10, 14],
      ['Survey booked', 25, 21],
      ['Survey done', 40, 18],
      ['Proposal out', 60, 30],
      ['Terms agreed', 85, 18],
    ],
  ],
  [
    'Service renewals',
    [
      ['Renewal due', 50, 25],
      ['Renewal offered', 70, 21],
      ['Agreed in words', 90, 12],
    ],
  ],
];

export const mailOf = (name: string, domain: string) =>
  `${name
    .toLowerCase()
    .replaceAll(' ', '.')
    .replace(/[^a-z.-]/g, '')}@${domain}`;

/** What every record carries, of one that was there from the beginning and of which the log says nothing. */
const headAt = (at: string) => ({
  version: 1,
  createdAt: at,
  createdBy: null,
  updatedAt: at,
  deletedAt: null,
});

/** The organisation, its teams and people, pipelines, targets and rates. */
export function foundCompany(book: Book, random: Random, today: Day, times = 1): Company {
  const start = addMonths(startOfMonth(today), -25);
  const founding = { at: `${start}T08:00:00.000Z`, person: null };
  book.add('organisation', { ...ORGANISATION, ...headAt(founding.at) });

  const top = book.create('team', founding, { name: 'Brackwater Sales', parent: null });
  const teamIds = Object.fromEntries(
    Object.entries(teams).map(([key, name]) => [key, book.create('team', founding, { name, parent: top })]),
  );
  const hire = (name: string, role: string, jobTitle: string, team: number) =>
    book.create('person', founding, {
      name,
      email: mailOf(name, 'brackwater.example'),
      role,
      jobTitle,
      team,
      active: true,
    });
  hire('Signe Abernock', 'manager', 'Director of sales', top);
  hire('Bram Tideswell', 'operations', 'Sales operations', top);
  for (const [name, team] of leaders) hire(name, 'manager', `Sales manager, ${teams[team]}`, teamIds[team]);
  const hired = reps.map(([name, team, traits]) => ({
    id: hire(name, 'rep', 'Rep', teamIds[team]),
    team,
    ...traits,
  }));

  const company: Company = { reps: hired, pipelines: [] };
  // So that the stages of one pipeline stand together wherever both are shown.
  let place = 0;
  for (const [position, [name, stages]] of pipelines.entries()) {
    const renewed = { renewsIn: pipelines.length, renewsAfter: 12 };
    const id = book.create('pipeline', founding, { name, position, ...renewed });
    company.pipelines.push({
      id,
      stages: stages.map(([stage, probability, usualDays]) => {
        const row = { name: stage, pipeline: id, position: place, probability, usualDays };
        place += 1;
        return { id: book.create('stage', founding, row), probability, usualDays };
      }),
    });
  }
  listChoices(book, founding);
  setAssignment(book, hired, founding);
  setTargets(book, hired, today, founding, times);
  setRates(book, random, start, founding.at);
  setHolidays(book, teamIds.coast, today, founding);
  return company;
}

/** What is chosen from in words of the company's own. */
function listChoices(book: Book, founding: Happening): void {
  for (const [list, choices] of Object.entries({ competitor: competitors, ...ownChoices }))
    book.create('choiceList', founding, {
      list,
      name: choiceListOf(list as ChoiceListKey).label,
      choices: JSON.stringify(choices),
    });
}

/** Who gets new leads: by what they want, the teams in turn. */
function setAssignment(book: Book, reps: readonly { id: number; team: string }[], founding: Happening): void {
  const interests = [
    ['Rivers and power', 'rivers', ['water level', 'data service']],
    ['Uplands and farms', 'uplands', ['snow depth', 'weather masts']],
    ['Harbours and coast, and the rest', 'coast', []],
  ] as const;
  for (const [position, [name, team, words]] of interests.entries()) {
    const of = words.map((value) => ({ field: 'interest', is: 'contains', value }));
    book.create('assignmentRule', founding, {
      name,
      condition: of.length > 0 ? JSON.stringify({ join: 'any', of }) : null,
      to: 'turns',
      person: null,
      people: JSON.stringify(reps.filter((rep) => rep.team === team).map(({ id }) => id)),
      position,
      active: true,
    });
  }
}

/** Quarterly targets from two years back to the quarter after this one, growing a little each quarter. */
function setTargets(
  book: Book,
  people: Rep[],
  today: Day,
  founding: { at: string; person: null },
  times: number,
): void {
  const calendar = { fiscalYearStart: ORGANISATION.fiscalYearStart, weekStart: 1 };
  for (let offset = -8; offset <= 1; offset += 1) {
    const { from } = periodOf('fiscalQuarter', today, calendar, offset);
    for (const { id, target } of people) {
      const amount = toMinor(Math.round((target * times * (1 + 0.02 * offset)) / 1000) * 1000, 'GBP');
      book.create('target', founding, { owner: id, startsOn: from, amount, currency: 'GBP' });
    }
  }
}

/** Holidays of this year and the next, one of them a team's own. */
function setHolidays(book: Book, harbours: number, today: Day, founding: Happening): void {
  const holidays: [string, string, number | null][] = [
    ['01-01', 'New Year’s Day', null],
    ['06-18', 'Harbour regatta', harbours],
    ['12-25', 'Christmas Day', null],
    ['12-26', 'Boxing Day', null],
  ];
  const year = Number(today.slice(0, 4));
  for (const each of [year, year + 1])
    for (const [day, name, team] of holidays)
      book.create('holiday', founding, { name, day: `${each}-${day}`, team });
}

/** Monthly rates in pounds that wander a little. */
function setRates(book: Book, random: Random, start: Day, at: string): void {
  const rates: Record<string, number> = { EUR: 0.862, SEK: 0.0757 };
  for (let month = 0; month <= 26; month += 1) {
    for (const [currency, rate] of Object.entries(rates)) {
      book.add('rate', {
        currency,
        validFrom: addMonths(start, month),
        rate: Math.round(rate * 1e5) / 1e5,
        ...headAt(at),
      });
      rates[currency] = rate * (1 + (random.unit() - 0.5) * 0.024);
    }
  }
}
