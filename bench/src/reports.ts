import {
  ask,
  endOfDay,
  readyReports,
  type Actor,
  type Question,
  type ReportAnswer,
  type ReportDesign,
} from '@zawn/core';
import { type Gate } from '@zawn/server/dist/kernel/questions/gate';
import { type Movements } from '@zawn/server/dist/features/reports/movements';
import { type ReportsController } from '@zawn/server/dist/features/reports/reports.controller';
import { reported, type ByHand } from './by-hand';
import { ReportsByHand } from './reports-by-hand';
import { ROUNDS, time, timeBoth, type Timing } from './measure';

/** A line of the table before it is held to an aim. */
export interface Timed {
  what: string;
  zawn: Timing;
  byHand: Timing | undefined;
}

const FIELDS = ['stage', 'owner', 'outcome', 'value', 'currency'];

/** What was open at a moment by stage and owner, from the first change of each value since, by hand. */
const openThen = (day: string) =>
  `WITH firsts AS (
    SELECT record, field, old, ROW_NUMBER() OVER (PARTITION BY record, field ORDER BY at, id) AS place
    FROM change WHERE object = 'deal' AND kind = 'changed' AND at > ? AND field IN (${FIELDS.map((field) => `'${field}'`).join(', ')})
  ), changed AS (
    SELECT record, ${FIELDS.map((field) => `MAX(CASE field WHEN '${field}' THEN old END) AS ${field}`).join(', ')}
    FROM firsts WHERE place = 1 GROUP BY record
  ), d AS (
    SELECT ${FIELDS.map((field) => `COALESCE(json_extract(c.${field}, '$'), p.${field}) AS ${field}`).join(', ')}
    FROM deal p LEFT JOIN changed c ON c.record = p.id WHERE p.createdAt <= ? AND p.deletedAt IS NULL
  )
  SELECT stage, owner, COUNT(*) AS n, SUM(${reported(`'${day}'`)}) AS value FROM d WHERE outcome = 'open' GROUP BY stage, owner`;

/** The sums of open deals by stage and owner a year ago, beside the same by hand. */
export async function lookingBack(
  gate: Gate,
  hand: ByHand,
  actor: Actor,
  same: (what: string, ours: unknown, theirs: unknown) => void,
): Promise<Timed> {
  const what = 'Open value by stage and owner as it stood a year ago';
  const day = '2025-11-19';
  const question: Question = {
    ...ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }),
    groups: [{ field: 'stage' }, { field: 'owner' }],
    measures: [{ as: 'count' }, { as: 'sum', of: 'value' }],
    asOf: day,
  };
  const moment = endOfDay('Europe/London', day);
  const byZawn = () => gate.figures(actor, question);
  const byHand = () => hand.all(openThen(day), moment, moment);
  const asText = (rows: readonly (readonly unknown[])[]) =>
    rows.map((row) => row.map(String).join(' ')).sort();
  same(
    what,
    asText((await byZawn()).rows.map(({ keys, figures }) => [...keys, ...figures])),
    asText(byHand().map(({ stage, owner, n, value }) => [stage, owner, n, value])),
  );
  return { what, ...(await timeBoth(byZawn, byHand, 20)) };
}

/** The innermost rows of a report as text: keys, the key it is split by, and what is measured. */
function innermost({ question, split, figures }: ReportDesign, { rows, splits }: ReportAnswer): string[] {
  const measured = figures.flatMap((figure, index) => ('measure' in figure ? [index] : []));
  const text = (keys: readonly unknown[], found: readonly (number | null)[]) =>
    [...keys, ...measured.map((index) => found[index])].map(plain).join(' ');
  const own = rows.filter(({ keys, rest }) => keys.length === (question.groups ?? []).length && !rest);
  return own
    .flatMap((row) =>
      split
        ? splits.flatMap((key, index) => {
            const part = row.split?.[index];
            return part && part.count > 0 ? [text([...row.keys, key], part.figures)] : [];
          })
        : // Periods without records are filled in.
          measured.every((index) => !row.figures[index])
          ? []
          : [text(row.keys, row.figures)],
    )
    .sort();
}

const plain = (value: unknown) =>
  typeof value === 'number' ? String(Math.round(value * 1000) / 1000) : String(value);

/** Every report that comes with Zawn, as somebody who sees everything asks for it, beside the same by hand. */
export async function readyMade(
  reports: ReportsController,
  actor: Actor,
  hand: ByHand,
  same: (what: string, ours: unknown, theirs: unknown) => void,
): Promise<Timed[]> {
  const lines: Timed[] = [];
  const byHand = new ReportsByHand(hand);
  for (const { key, name, design } of readyReports) {
    const what = `Report: ${name}`;
    const byZawn = () => reports.answer(actor, { design });
    const written = byHand.of(key);
    if (!written) {
      lines.push({ what, zawn: await time(byZawn, ROUNDS), byHand: undefined });
      continue;
    }
    const theirs = written().map((row) => row.map(plain).join(' '));
    same(what, innermost(design, await byZawn()), theirs.sort());
    lines.push({ what, ...(await timeBoth(byZawn, written, ROUNDS)) });
  }
  return lines;
}

/** How the open pipeline moved over a quarter. */
export const moving = async (movements: Movements, actor: Actor): Promise<Timed> => ({
  what: 'Movement over a quarter',
  zawn: await time(() => movements.answer(actor, { from: '2026-08-20', to: '2026-11-19' }), ROUNDS),
  byHand: undefined,
});
