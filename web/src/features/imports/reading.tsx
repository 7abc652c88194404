import { type TableHead } from '@zawn/core';
import { type Guess, type ImportSetup, type SetupGuess } from '@zawn/core/imports';
import { Select } from 'antd';
import { counted } from '../../platform/frame/format';
import { Option } from './option';

interface Props {
  table: TableHead;
  setup: ImportSetup;
  conventions: Pick<SetupGuess, 'dates' | 'decimal'>;
  change: (change: Partial<ImportSetup>) => void;
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
const encodings = [
  { value: 'utf-8', label: 'UTF-8' },
  { value: 'windows-1252', label: 'Windows-1252' },
  { value: 'utf-16le', label: 'UTF-16' },
  { value: 'utf-16be', label: 'UTF-16, big end first' },
] as const;
const headingRows = [
  { value: 0, label: 'there are none' },
  ...Array.from({ length: 10 }, (_, index) => ({ value: index + 1, label: `in row ${index + 1}` })),
];

/** Guesses less sure than this are pointed out. */
const DOUBTFUL = 0.7;

/** Something a file can be read by: what is taken for true, the other choices, and the guess behind it. */
interface Way<T extends string | number> {
  label: string;
  value: T;
  options: readonly { value: T; label: string }[];
  choose: (value: T) => void;
  guess?: Guess<unknown>;
}

function way<T extends string | number>({ label, value, options, choose, guess }: Way<T>) {
  const isDoubtful = guess !== undefined && guess.sure < DOUBTFUL;
  const element = (
    <Option key={label} label={label}>
      <Select size="small" value={value} options={[...options]} onChange={choose} />
      {guess && <small className={isDoubtful ? 'attention' : ''}>{guess.why}</small>}
    </Option>
  );
  return { isDoubtful, element };
}

/** How the file is read, with why; what is doubtful first, and open from the start where anything is. */
export function Reading({ table, setup, conventions, change, reread }: Props) {
  const { format, delimiter, encoding, headingRow, sheets, sheet } = table;
  const { dates, decimal } = conventions;
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
      }),
    sheet !== undefined &&
      sheets &&
      sheets.length > 1 &&
      way({
        label: 'Sheet',
        value: sheet,
        options: sheets.map((value) => ({ value, label: value })),
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
    dates &&
      way({
        label: 'Dates are written',
        value: setup.dates,
        options: dateOrders,
        choose: (value) => change({ dates: value }),
        guess: dates,
      }),
    decimal &&
      way({
        label: 'Before decimals stands',
        value: setup.decimal,
        options: decimals,
        choose: (value) => change({ decimal: value }),
        guess: decimal,
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
