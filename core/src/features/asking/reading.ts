import { type Catalogue, type ObjectKey, type RecordOf } from '../../kernel/catalogue';
import { type Question } from '../../kernel/questions';
import { type ComparedPeriod } from '../reports/report';
import { type CalendarRules, type Day } from '../../platform/time';

/** Words with two usual readings, and which of them an organisation means. */
export interface WordRules {
  /** “This year”, “last quarter”: of the fiscal year or of the calendar. */
  year: 'fiscal' | 'calendar';
  /** “10/12”: the day or the month first. */
  date: 'dayFirst' | 'monthFirst';
  /** “Customers”: accounts that are called so, or those that something was won from. */
  customers: 'called' | 'won';
  /** “With Nora”: hers, or with something that she did. */
  with: 'owner' | 'did';
}
/** What an organisation says of its words, where it says anything. */
type Settings = Partial<
  Pick<RecordOf<'organisation'>, 'wordsYear' | 'wordsDate' | 'wordsCustomers' | 'wordsWith' | 'country'>
>;

export const usualRules: WordRules = { year: 'fiscal', date: 'dayFirst', customers: 'called', with: 'owner' };

/** Where months are written before days. */
const MONTH_FIRST: readonly string[] = ['US', 'PH', 'PW', 'FM', 'MH'];

/** How an organisation reads words with two usual readings: as it says, or as is usual where it is. */
export const wordRulesOf = ({
  wordsYear,
  wordsDate,
  wordsCustomers,
  wordsWith,
  country,
}: Settings): WordRules => ({
  year: wordsYear ?? usualRules.year,
  date: wordsDate ?? (country && MONTH_FIRST.includes(country) ? 'monthFirst' : 'dayFirst'),
  customers: wordsCustomers ?? usualRules.customers,
  with: wordsWith ?? usualRules.with,
});

interface Named {
  id: number;
  name: string;
}

/** All that words may mean: the organisation's fields and choices, people, teams, pipelines, lists and views. */
export interface Vocabulary {
  catalogue: Catalogue;
  today: Day;
  calendar: CalendarRules;
  currency: string;
  people: readonly Named[];
  teams: readonly Named[];
  pipelines: readonly Named[];
  stages: readonly Named[];
  lists: readonly (Named & { object: ObjectKey })[];
  views: readonly (Named & { object: ObjectKey; question: Question })[];
  rules: WordRules;
}

/** How an answer is drawn, where that was said. */
export type AskedDrawing = 'table' | 'columns' | 'bars' | 'line' | 'pivot' | 'area' | 'share' | 'funnel';

/** What was asked in words: a question, and what of it is not in the question itself. */
export interface Asked {
  question: Question;
  draw?: AskedDrawing;
  /** Only so many records stand first. */
  limit?: number;
  /** The rate at which records come to what they are for is told beside other figures: deals won, leads converted. */
  hasRate?: true;
  /** The figures beside those of another period. */
  compared?: ComparedPeriod;
}

/** A place in the text. */
export interface Span {
  from: number;
  to: number;
}

/** What was read otherwise than it stands: `quater` as `quarter`. */
export interface Respelt extends Span {
  as: string;
}

/** Words that can mean several things: what they were read as, and what else they may mean. */
export interface Doubtful extends Span {
  /** What they were read as, in words. */
  as: string;
  others: readonly {
    /** In words: `this calendar year`. */
    as: string;
    /** Said so, it is read so: the whole text with other words in this place. */
    text?: string;
    /** The rule that reads it so. */
    rules?: Partial<WordRules>;
  }[];
}

/** What is no question of the records: what was looked for, and why there is no answer. */
export interface NoQuestion extends Span {
  why: string;
}

/** How a typed text is read. */
export interface Reading {
  /** Undefined where nothing could be made of it. */
  asked?: Asked;
  /** What was not understood: without it the question is wider than what was typed. */
  unread: readonly Span[];
  respelt: readonly Respelt[];
  doubtful: readonly Doubtful[];
  noQuestion?: NoQuestion;
}
