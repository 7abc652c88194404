import { Injectable } from '@nestjs/common';
import type { CanvasElement, Content } from 'pdfmake/interfaces';
import {
  allOf,
  ask,
  countsIn,
  fieldOf,
  narrowedTo,
  ownersOf,
  policyOf,
  progressIn,
  progressReport,
  readinessOf,
  reportPeriodInWords,
  stillWrong,
  upkeepKindsOf,
  upkeepQuestions,
  worstFirst,
  type Actor,
  type DashboardChoice,
  type ProgressFigures,
  type RelativePeriod,
  type UpkeepCheck,
} from '@zawn/core';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { PAGE_WIDTH } from '../reports/printed';
import { mayTakeOut } from '../reports/report-files';
import { LANGUAGE, writers } from '../reports/report-table';
import { GREY, ReportPrint } from './report-print';

const THIS_QUARTER: RelativePeriod = { unit: 'fiscalQuarter', offset: 0 };
/** Of how far somebody has come, what the waterline shows. */
const SHOWN = new Set(['won', 'target', 'reached', 'needed', 'expected', 'weighted', 'covered']);
/** What the band is drawn with, as on a screen that is light. */
const BAND = { won: '#0F5C63', open: '#8DB9B6', target: '#D99A00', ground: '#E3DDCF' };
const MOST_CHECKS = 500;

/** Lays out how things stand: what was won against its target, and how ready the records are. */
@Injectable()
export class StandingPrint {
  constructor(
    private readonly gate: Gate,
    private readonly organisation: Organisation,
    private readonly reports: ReportPrint,
  ) {}

  /** How far whoever is chosen has come: the band, and the figures that it is drawn from. */
  async waterline(actor: Actor, name: string, choice: DashboardChoice): Promise<Content[]> {
    const { catalogue } = await this.gate.context(actor);
    if (!fieldOf(catalogue, 'deal', 'value'))
      throw new Problem('conflict', 'What deals are worth is not yours to see.');
    const [teams, people] = [await this.organisation.teams(), await this.organisation.people()];
    // What one person is to win has no pipeline: against it all their deals count.
    const { pipeline: _, period = THIS_QUARTER, ...known } = choice;
    const { asked } = narrowedTo('deal', known, { catalogue, teams });
    const whole = progressReport(asked, period);
    const design = {
      ...whole,
      figures: whole.figures.filter(({ key }) => SHOWN.has(key)),
      draw: 'none' as const,
    };
    const of =
      typeof choice.person === 'number'
        ? people.find(({ id }) => id === choice.person)?.name
        : choice.person !== undefined
          ? people.find(({ id }) => id === actor.personId)?.name
          : teams.find(({ id }) => id === choice.team)?.name;
    const about = [of, reportPeriodInWords(period, writers.day)].filter(Boolean).join(', ');
    return this.reports.report(actor, { name, about, design }, (total) => bandOf(progressIn(design, total)));
  }

  /** What is wrong with the records of whoever asks, worst first. */
  async upkeep(actor: Actor): Promise<Content[]> {
    const policy = policyOf(actor);
    const { rows } = await this.gate.records(actor, ask('upkeepCheck'), { offset: 0, limit: MOST_CHECKS });
    const kinds = upkeepKindsOf(rows as unknown as UpkeepCheck[]);
    const asked = upkeepQuestions(kinds);
    const answers = [];
    for (const { question } of asked) {
      mayTakeOut(actor, question.object);
      const where = allOf(question.where, ownersOf(policy, question.object));
      answers.push(await this.gate.figures(actor, { ...question, ...(where ? { where } : {}) }, 'leftOut'));
    }
    const counts = countsIn(asked, answers);
    const { ready } = readinessOf(kinds, counts.all);
    if (ready === null) return [{ text: 'Nothing is on file yet that could be put right.' }];
    const number = (value: number) => value.toLocaleString(LANGUAGE);
    const lines = worstFirst(counts.all, stillWrong(kinds, counts)).map(({ key, label, of }) => [
      label,
      { text: number(counts.all.wrong[key]), alignment: 'right' as const },
      { text: number(counts.all.bases[of]), alignment: 'right' as const },
    ]);
    const head = ['What', 'Records', 'Of'].map((text) => ({ text, bold: true }));
    return [
      { text: `${Math.round(ready * 100)}% ready for reports`, color: GREY, margin: [0, 0, 0, 6] },
      ...(lines.length > 0
        ? [
            {
              table: {
                headerRows: 1,
                keepWithHeaderRows: 1,
                dontBreakRows: true,
                body: [head, ...lines],
                widths: ['*', 'auto', 'auto'],
              },
              layout: 'lightHorizontalLines',
              fontSize: 9,
            },
          ]
        : []),
    ];
  }
}

/** What was won, what is open by its weight, and where the target lies. */
function bandOf({ won, open, target }: ProgressFigures): Content {
  // A little room is left behind what reaches furthest.
  const reach = Math.max(won.value + open.weighted, target ?? 0, 1) * 1.02;
  const at = (value: number) => (PAGE_WIDTH * value) / reach;
  const part = (from: number, to: number, color: string): CanvasElement => ({
    type: 'rect',
    x: at(from),
    y: 4,
    w: at(to) - at(from),
    h: 14,
    color,
  });
  const mark: CanvasElement[] =
    target === null
      ? []
      : [
          {
            type: 'line',
            x1: at(target),
            x2: at(target),
            y1: 0,
            y2: 22,
            lineWidth: 3,
            lineColor: BAND.target,
          },
        ];
  return {
    stack: [
      {
        canvas: [
          part(0, reach, BAND.ground),
          part(0, won.value, BAND.won),
          part(won.value, won.value + open.weighted, BAND.open),
          ...mark,
        ],
      },
      {
        text: [
          { text: 'Won', color: BAND.won },
          { text: '   Open, by weight', color: '#4F7C79' },
          ...(target === null ? [] : [{ text: '   Target', color: '#7A5600' }]),
        ],
        fontSize: 9,
      },
    ],
    margin: [0, 12, 0, 0],
  };
}
