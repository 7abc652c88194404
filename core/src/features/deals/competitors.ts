import { type Choice } from '../../kernel/catalogue';
import {
  allOf,
  ask,
  type Condition,
  type FigureRow,
  type Measure,
  type Question,
  type RelativeSpan,
} from '../../kernel/questions';
import { winRate, type Closed } from './win-rate';

/** The questions behind what is known of competitors; each opens the deals it counts. */
export interface CompetitorQuestions {
  /** Deals that are open now. */
  open: Question;
  /** Those won, and those lost, in the period, whoever they were lost to. */
  won: Question;
  lost: Question;
  /** Those lost to the competitor itself. */
  lostTo: Question;
}

const measures: readonly Measure[] = [{ as: 'count' }, { as: 'sum', of: 'value' }];

const outcome = (key: string): Condition => ({ field: 'outcome', is: 'anyOf', value: [key] });

/**
 * What has to be asked to see how deals against competitors go.
 * @param since the days in which they were closed; all of them when left out.
 * @param only one competitor; all of them when left out, a row of figures each.
 */
export function competitorQuestions(since?: RelativeSpan, only?: string): CompetitorQuestions {
  const closed: Condition | undefined = since && { field: 'closedOn', is: 'in', value: since };
  const question = (field: string, ...conditions: (Condition | undefined)[]): Question => ({
    ...ask(
      'deal',
      allOf(
        only === undefined ? { field, is: 'isNotEmpty' } : { field, is: 'anyOf', value: [only] },
        ...conditions,
      ),
    ),
    groups: [{ field }],
    measures,
  });
  return {
    open: question('competitors', outcome('open')),
    won: question('competitors', outcome('won'), closed),
    lost: question('competitors', outcome('lost'), closed),
    lostTo: question('lostTo', outcome('lost'), closed),
  };
}

/** How deals against one competitor go. Values in minor units of the reporting currency. */
export interface CompetitorFigures {
  key: string;
  name: string;
  open: Closed;
  won: Closed;
  lost: Closed;
  lostTo: Closed;
  /** Won ÷ (won + lost) of the deals that it was in, by count; null where none was closed. */
  rate: number | null;
}

const NONE: Closed = { count: 0, value: 0 };

/**
 * The figures of each competitor, those with the most deals first; retired ones only where they were met.
 * @param answers rows of figures in the order of `open`, `won`, `lost` and `lostTo`.
 */
export function competitorFigures(
  choices: readonly Choice[],
  answers: readonly (readonly FigureRow[])[],
): CompetitorFigures[] {
  const [open, won, lost, lostTo] = answers.map(
    (rows) =>
      new Map(
        rows.map(({ keys: [key], figures: [count, value] }): [string, Closed] => [
          String(key),
          { count: count ?? 0, value: value ?? 0 },
        ]),
      ),
  );
  const met = (each: CompetitorFigures) => each.open.count + each.won.count + each.lost.count;
  return choices
    .map(({ key, label, retired }) => {
      const [ours, theirs] = [won.get(key) ?? NONE, lost.get(key) ?? NONE];
      const figures: CompetitorFigures = {
        key,
        name: label,
        open: open.get(key) ?? NONE,
        won: ours,
        lost: theirs,
        lostTo: lostTo.get(key) ?? NONE,
        rate: winRate(ours, theirs).byCount,
      };
      return { figures, isShown: !retired || met(figures) > 0 };
    })
    .filter(({ isShown }) => isShown)
    .map(({ figures }) => figures)
    .sort((a, b) => met(b) - met(a) || (a.name < b.name ? -1 : 1));
}
