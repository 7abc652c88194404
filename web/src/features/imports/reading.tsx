import { type TableHead } from '@zawn/core';
import {
  ENCODINGS,
  fillableAt,
  targetOf,
  type Guess,
  type ImportSetup,
  type SetupGuess,
} from '@zawn/core/imports';
import { Button, Select } from 'antd';
import { type ReactNode } from 'react';
import { counted } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { openDoubts, type Doubt } from './doubts';
import { Option } from './option';

interface Props {
  table: TableHead;
  setup: ImportSetup;
  conventions: Pick<SetupGuess, 'dates' | 'decimal' | 'names'>;
  change: (change: Partial<ImportSetup>) => void;
  /** Doubts that somebody has settled. */
  agreed: ReadonlySet<Doubt>;
  agree: (doubt: Doubt) => void;
  /** Reads the file again in another way. */
  reread: (as: { reading: ImportSetup['reading'] }) => void;
}

const dateOrders = [
  { value: 'dmy', label: 'day, month, year' },
  { value: 'mdy', label: 'month, day, year' },
  { value: 'ymd', label: 'year, month, day' },
] as const;
const decimals = [
  { value: '.', label: 'a point' },
  { value: ',', label: 'a comma' },
] as const;
const delimiters = [
  { value: ',', label: 'comma' },
  { value: ';', label: 'semicolon' },
  { value: '\t', label: 'tab' },
  { value: '|', label: 'pipe' },
];
const encodings = ENCODINGS.map(([value, label]) => ({ value, label }));
const nameOrders = [
  { value: 'asWritten', label: 'as they are' },
  { value: 'lastFirst', label: 'last name, first name' },
] as const;
const headingRows = [
  { value: 0, label: 'there are none' },
  ...Array.from({ length: 10 }, (_, index) => ({ value: index + 1, label: `in row ${index + 1}` })),
];

const encodingNames = new Map<string, string>(ENCODINGS);

/** Guesses less sure than this are pointed out. */
const DOUBTFUL = 0.7;

/** Something a file can be read by: what is taken for true, the other choices, and the guess behind it. */
interface Way<T extends string | number> {
  label: string;
  value: T;
  options: readonly { value: T; label: string }[];
  choose: (value: T) => void;
  guess?: Guess<unknown>;
  /** What else it could be, with a look at what would change. */
  beside?: ReactNode;
  /** Settles what is asked about it; undefined when nothing is. */
  agree?: () => void;
}

function way<T extends string | number>({ label, value, options, choose, guess, beside, agree }: Way<T>) {
  const isDoubtful = guess !== undefined && guess.sure < DOUBTFUL;
  const element = (
    <div key={label} className="import-way">
      <Option label={label}>
        <Select
          size="small"
          value={value}
          options={[...options]}
          onChange={(chosen) => {
            agree?.();
            choose(chosen);
          }}
        />
        {guess && <small className={isDoubtful ? 'attention' : ''}>{guess.why}</small>}
      </Option>
      {beside}
      {agree && (
        <Button size="small" block onClick={agree}>
          That is right
        </Button>
      )}
    </div>
  );
  return { isDoubtful, element };
}

/** How the file is read, with why; what is doubtful first, and open from the start where anything is. */
export function Reading({ table, setup, conventions, agreed, agree, change, reread }: Props) {
  const { format, delimiter, encoding, headingRow, sheets, sheet } = table;
  const { dates, decimal, names } = conventions;
  const session = useSession();
  const open = openDoubts(table, conventions, agreed);
  const settle = (doubt: Doubt) => (open.includes(doubt) ? { agree: () => agree(doubt) } : {});
  const currencies = [
    ...new Set([session.organisation.currency, ...session.rates.map(({ currency }) => currency)]),
  ];
  const hasMoney = setup.columns.some(
    (path) =>
      path !== null && fillableAt(session.catalogue, targetOf(setup.target), path)?.field.type === 'money',
  );
  const read = (reading: ImportSetup['reading']) => reread({ reading: { ...setup.reading, ...reading } });
  const ways = [
    delimiter &&
      way({
        label: 'Cells are parted by',
        value: delimiter.value,
        options: delimiters,
        choose: (value) => read({ delimiter: value }),
        guess: delimiter,
      }),
    encoding &&
      format === 'delimited' &&
      way({
        label: 'Encoding',
        value: encoding.value,
        options: encodings,
        choose: (value) => read({ encoding: value }),
        guess: encoding,
        ...settle('encoding'),
        beside: encoding.others?.slice(0, 2).map(({ value, glimpse }) => (
          <Button
            key={value}
            size="small"
            type="text"
            block
            onClick={() => {
              agree('encoding');
              read({ encoding: value });
            }}
          >
            <span className="clip">
              {encodingNames.get(value)}: {glimpse.map(([now, then]) => `${now} → ${then}`).join(', ')}
            </span>
          </Button>
        )),
      }),
    sheet !== undefined &&
      sheets &&
      sheets.length > 1 &&
      way({
        label: 'Sheet',
        value: sheet,
        options: sheets.map(({ name, rows }) => ({
          value: name,
          label: rows === undefined ? name : `${name}, ${counted(rows, 'row')}`,
        })),
        choose: (value) => read({ sheet: value, headingRow: undefined }),
      }),
    (format === 'delimited' || format === 'workbook') &&
      way({
        label: 'Headings',
        value: headingRow.value,
        options: headingRows,
        choose: (value) => read({ headingRow: value }),
        guess: headingRow,
      }),
    names &&
      way({
        label: 'Names are written',
        value: setup.names ?? 'asWritten',
        options: nameOrders,
        choose: (value) => change({ names: value }),
        guess: names,
        ...settle('names'),
      }),
    hasMoney &&
      way({
        label: 'Amounts without a currency are in',
        value: setup.currency ?? session.organisation.currency,
        options: currencies.map((value) => ({ value, label: value })),
        choose: (value) => change({ currency: value }),
      }),
    dates &&
      way({
        label: 'Dates are written',
        value: setup.dates,
        options: dateOrders,
        choose: (value) => change({ dates: value }),
        guess: dates,
        ...settle('dates'),
      }),
    decimal &&
      way({
        label: 'Before decimals stands',
        value: setup.decimal,
        options: decimals,
        choose: (value) => change({ decimal: value }),
        guess: decimal,
        ...settle('decimal'),
      }),
  ].filter((each) => !!each);
  const doubts = ways.filter(({ isDoubtful }) => isDoubtful);
  const sure = ways.filter(({ isDoubtful }) => !isDoubtful);
  return (
    <details className="import-reading" open={doubts.length > 0}>
      <summary>
        How the file is read
        {doubts.length > 0 && <span className="attention"> · {counted(doubts.length, 'doubt')}</span>}
      </summary>
      {[...doubts, ...sure].map(({ element }) => element)}
    </details>
  );
}
