import { addDays, type Day } from '@zawn/core';
import { type Book, type Row } from './book';
import { type Random } from './random';

type Draw = (random: Random, row: Row, today: Day) => Row[string] | string[] | undefined;

interface OwnField {
  object: 'lead' | 'contact' | 'account' | 'deal';
  key: string;
  label: string;
  type: string;
  choices?: [string, string][];
  to?: string;
  help?: string;
  section: string;
  /** A value for a record; undefined leaves it empty. */
  draw: Draw;
}

const often =
  (share: number, draw: Draw): Draw =>
  (random, row, today) =>
    random.chance(share) ? draw(random, row, today) : undefined;

/** The fields that Brackwater added for its own trade. */
const ownFields: OwnField[] = [
  {
    object: 'account',
    key: 'x_stations',
    label: 'Stations in the field',
    type: 'number',
    help: 'Ours and others’, as far as we know',
    section: 'Site',
    draw: often(0.7, (random) => random.int(0, 14)),
  },
  {
    object: 'account',
    key: 'x_serviceUntil',
    label: 'Service contract until',
    type: 'date',
    section: 'Site',
    draw: (random, { relationship }, today) =>
      relationship === 'customer' ? addDays(today, random.int(-90, 500)) : undefined,
  },
  {
    object: 'account',
    key: 'x_terrain',
    label: 'Terrain',
    type: 'choices',
    choices: [
      ['tidal', 'Tidal water'],
      ['river', 'River'],
      ['lake', 'Lake'],
      ['slope', 'Slope'],
      ['ice', 'Ice in winter'],
    ],
    section: 'Site',
    draw: often(0.6, (random, { industry }) => {
      const first = { harbour: 'tidal', fishFarm: 'tidal', ski: 'slope', vineyard: 'slope' }[
        String(industry)
      ];
      const terrain = [first ?? random.pick(['river', 'lake'])];
      if (random.chance(0.3)) terrain.push('ice');
      return terrain.sort();
    }),
  },
  {
    object: 'deal',
    key: 'x_siteVisit',
    label: 'Site visited',
    type: 'yesNo',
    section: 'Installation',
    draw: often(0.5, (random) => random.chance(0.6)),
  },
  {
    object: 'deal',
    key: 'x_installBy',
    label: 'Install by',
    type: 'date',
    section: 'Installation',
    draw: often(0.4, (random, { closeOn }) => addDays(String(closeOn), random.int(20, 120))),
  },
  {
    object: 'deal',
    key: 'x_surveyCost',
    label: 'Cost of the survey',
    type: 'money',
    section: 'Installation',
    draw: often(0.3, (random) => random.int(4, 30) * 10_000),
  },
  {
    object: 'deal',
    key: 'x_engineer',
    label: 'Field engineer',
    type: 'link',
    to: 'person',
    section: 'Installation',
    draw: often(0.35, (random) => random.int(1, 4)),
  },
  {
    object: 'contact',
    key: 'x_language',
    label: 'Language',
    type: 'choice',
    choices: [
      ['en', 'English'],
      ['de', 'German'],
      ['fr', 'French'],
      ['sv', 'Swedish'],
    ],
    section: 'Person',
    draw: (_, { country }) => ({ GB: 'en', IE: 'en', DE: 'de', FR: 'fr', SE: 'sv' })[String(country)],
  },
  {
    object: 'lead',
    key: 'x_sites',
    label: 'Sites to cover',
    type: 'number',
    section: 'Site',
    draw: often(0.45, (random) => random.int(1, 9)),
  },
];

const tags: Record<OwnField['object'], Record<string, number>> = {
  lead: { 'fair follow-up': 0.14, 'needs survey': 0.12, framework: 0.05 },
  contact: { newsletter: 0.3, 'speaks at fairs': 0.05, 'site keys': 0.06 },
  account: { framework: 0.12, reference: 0.1, 'winter access': 0.09, 'public tender': 0.2 },
  deal: { 'public tender': 0.15, replacement: 0.22, pilot: 0.1 },
};

/** Makes the organisation's own fields. */
export function makeOwnFields(book: Book, founding: string): void {
  for (const [position, { object, key, label, type, section, choices, to, help }] of ownFields.entries()) {
    book.create(
      'customField',
      { at: founding, person: null },
      {
        object,
        key,
        label,
        type,
        section,
        choices: choices ? JSON.stringify(choices) : null,
        to: to ?? null,
        required: false,
        help: help ?? null,
        position,
        retired: false,
      },
    );
  }
}

/** Gives the records values in the organisation's own fields, and tags. */
export function fillOwnFields(book: Book, random: Random, today: Day): void {
  for (const object of ['lead', 'contact', 'account', 'deal'] as const) {
    const own = ownFields.filter((field) => field.object === object);
    for (const row of book.rows(object)) {
      const custom: Record<string, unknown> = {};
      for (const { key, draw } of own) {
        const value = draw(random, row, today);
        if (value !== undefined && value !== null) custom[key] = value;
      }
      const tagged = Object.entries(tags[object])
        .filter(([, share]) => random.chance(share))
        .map(([tag]) => tag)
        .sort();
      row.tags = tagged.length > 0 ? JSON.stringify(tagged) : null;
      row.custom = Object.keys(custom).length > 0 ? JSON.stringify(custom) : null;
    }
  }
}
