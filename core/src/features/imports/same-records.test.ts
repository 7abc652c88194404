import {
  decodeText,
  guessSetup,
  planImport,
  readFile,
  readRows,
  setupFrom,
  type Encoding,
  type ImportSurroundings,
} from '.';
import { builtIn } from '../../kernel/catalogue';

/** How deals are headed in a language, and letters of it. */
const languages: Record<
  string,
  { headings: [string, string, string, string]; name: string; encodings: Encoding[] }
> = {
  English: {
    headings: ['Deal', 'Company', 'Amount', 'Close date'],
    name: 'Crane “North” – £',
    encodings: ['windows-1252'],
  },
  German: {
    headings: ['Verkaufschance', 'Firma', 'Betrag', 'Abschlussdatum'],
    name: 'Größe Süd äöüß',
    encodings: ['windows-1252', 'macintosh'],
  },
  French: {
    headings: ['Affaire', 'Société', 'Montant', 'Date de clôture'],
    name: 'Château hôtel élève',
    encodings: ['windows-1252', 'macintosh'],
  },
  Spanish: {
    headings: ['Oportunidad', 'Empresa', 'Importe', 'Fecha de cierre'],
    name: 'Señal del muelle Ávila',
    encodings: ['windows-1252'],
  },
  Italian: {
    headings: ['Opportunità', 'Azienda', 'Importo', 'Data di chiusura'],
    name: 'Città però più',
    encodings: ['windows-1252'],
  },
  Dutch: {
    headings: ['Verkoopkans', 'Bedrijf', 'Bedrag', 'Sluitingsdatum'],
    name: 'Coördinatie kade één',
    encodings: ['windows-1252'],
  },
  Swedish: {
    headings: ['Affärsmöjlighet', 'Företag', 'Belopp', 'Slutdatum'],
    name: 'Båtbyggare Östra hamnen',
    encodings: ['windows-1252', 'macintosh'],
  },
  Norwegian: {
    headings: ['Salgsmulighet', 'Bedrift', 'Beløp', 'Lukkedato'],
    name: 'Sjømerke på Ærøya',
    encodings: ['windows-1252'],
  },
  Danish: {
    headings: ['Salgsmulighed', 'Virksomhed', 'Beløb', 'Forventet afslutning'],
    name: 'Sømærke på Åen',
    encodings: ['windows-1252'],
  },
  Polish: {
    headings: ['Szansa', 'Spółka', 'Kwota', 'Data zamknięcia'],
    name: 'Żegluga Świnoujście łódź',
    encodings: ['windows-1250', 'iso-8859-2'],
  },
  Portuguese: {
    headings: ['Oportunidade', 'Razão social', 'Montante', 'Data de fecho'],
    name: 'Estação de maré não',
    encodings: ['windows-1252'],
  },
};

const delimiters = [',', ';', '\t', '|'];

const two = (number: number) => String(number).padStart(2, '0');
const orders: Record<string, (day: number) => string> = {
  'by day': (day) => `${two(day)}/04/2027`,
  'by day, with points': (day) => `${day}.4.2027`,
  'by month': (day) => `04/${two(day)}/2027`,
  'by year': (day) => `2027-04-${two(day)}`,
};

const days = [3, 5, 17, 24];

const around: ImportSurroundings = {
  catalogue: builtIn,
  locale: { country: 'GB' },
  currency: 'GBP',
  named: {},
  owners: undefined,
  defaults: {
    lead: {},
    contact: { owner: 1 },
    account: { owner: 1 },
    deal: { owner: 1, pipeline: 1, stage: 1 },
    activity: {},
  },
  today: '2026-11-19',
  timeZone: 'Europe/London',
};

const tables = new Map<Encoding, Map<string, number>>();

/** A text in an encoding. */
function encoded(text: string, encoding: Encoding): Uint8Array {
  if (encoding === 'utf-8') return new TextEncoder().encode(text);
  if (encoding === 'utf-16le' || encoding === 'utf-16be') {
    const units = Uint16Array.from(`\uFEFF${text}`, (letter) => letter.charCodeAt(0));
    const bytes = new DataView(new ArrayBuffer(2 * units.length));
    for (const [at, unit] of units.entries()) bytes.setUint16(2 * at, unit, encoding === 'utf-16le');
    return new Uint8Array(bytes.buffer);
  }
  const table = tables.get(encoding) ?? new Map<string, number>();
  if (table.size === 0)
    for (let byte = 0; byte < 256; byte += 1) table.set(decodeText(Uint8Array.of(byte), encoding), byte);
  tables.set(encoding, table);
  return Uint8Array.from(text, (letter) => {
    const byte = table.get(letter);
    if (byte === undefined) throw new Error(`${letter} is not in ${encoding}`);
    return byte;
  });
}

/** The deals a file holds, as they would be created; the encoding is said where it is asked for. */
async function dealsIn(bytes: Uint8Array, encoding: Encoding) {
  let table = await readFile(bytes);
  if ((table.encoding?.sure ?? 1) <= 0.6) table = await readFile(bytes, { encoding });
  const setup = setupFrom(guessSetup(builtIn, 'deal', table), 'deal', 1);
  const plan = planImport(readRows(table, setup, around), setup, { find: () => [] }, around);
  return {
    refused: plan.refused,
    notes: plan.notes,
    deals: plan.create.map(({ values, links }) => ({
      name: values.name,
      value: values.value,
      closeOn: values.closeOn,
      account: links.account && 'made' in links.account ? plan.others[links.account.made].values.name : null,
    })),
  };
}

describe.each(Object.entries(languages))('a file headed in %s', (_, { headings, name, encodings }) => {
  const deals = days.map((day, at) => ({
    name: `${name} ${day}`,
    value: 2_450_075 + at,
    closeOn: `2027-04-${two(day)}`,
    account: `${name} & Co ${at % 2}`,
  }));

  it.each(['utf-8', 'utf-16le', 'utf-16be', ...encodings] as Encoding[])(
    'holds the same deals in %s, whatever its delimiter, its order of dates and its decimal sign',
    async (encoding) => {
      for (const delimiter of delimiters)
        for (const [order, write] of Object.entries(orders))
          for (const decimal of ['.', ',']) {
            const amount = (value: number) =>
              `24${decimal === '.' ? ',' : '.'}500${decimal}${two(value % 100)}`;
            const quoted = (cell: string) => (cell.includes(delimiter) ? `"${cell}"` : cell);
            const rows = deals.map(({ name: called, account, value }, at) =>
              [called, account, amount(value), write(days[at])].map(quoted).join(delimiter),
            );
            const text = `${[headings.join(delimiter), ...rows].join('\r\n')}\r\n`;
            const read = await dealsIn(encoded(text, encoding), encoding);
            expect({ order, delimiter, decimal, ...read }).toEqual({
              order,
              delimiter,
              decimal,
              refused: [],
              notes: [],
              deals,
            });
          }
    },
  );
});
