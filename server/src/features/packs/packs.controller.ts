import { Controller, HttpCode, Post, Res } from '@nestjs/common';
import { type Response } from 'express';
import Joi from 'joi';
import type { Content } from 'pdfmake/interfaces';
import {
  answerReport,
  ask,
  contextThen,
  frozenPack,
  leftOutInWords,
  MOST_PAGES,
  narrowedReport,
  nextPack,
  packDesignOf,
  readyReport,
  readyReports,
  reportDesignOf,
  subjectKeys,
  type Actor,
  type AnyRecord,
  type FreezePackRequest,
  type FrozenPackAnswer,
  type NextPackRequest,
  type NoteInPackRequest,
  type Pack,
  type PackDesign,
  type PackFileRequest,
  type PackPage,
  type Report,
  type ReportDesign,
  type ReportPage,
  type Snapshot,
  type Written,
} from '@zawn/core';
import { validDay } from '@zawn/core/validation';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { Gives } from '../../platform/http/described';
import { Problem } from '../../platform/http/problem';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForTokens } from '../../platform/sessions/scopes';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { ByHand } from '../../kernel/records/by-hand';
import { Door, type WriteContext } from '../../kernel/records/door';
import {
  drawingIn,
  fileTypes,
  mayTakeOut,
  pages,
  printedReport,
  ReportFiles,
  sendFile,
  validDrawing,
} from '../reports/report-files';
import { Freezer } from '../snapshots/freezer';

const id = Joi.number().integer().positive().max(9e15);

const noteRequest = Joi.object<NoteInPackRequest>({
  kind: Joi.string().valid('decision', 'followUp').required(),
  text: Joi.string().trim().min(1).max(500).required().label('What'),
  on: Joi.object({
    object: Joi.string()
      .valid(...subjectKeys)
      .required(),
    id: id.required(),
  }),
  dueOn: validDay,
  owner: id,
});
const freezeRequest = Joi.object<FreezePackRequest>({
  folder: id.required(),
  seenBy: Joi.string().valid('each', 'whole').required(),
});
const nextRequest = Joi.object<NextPackRequest>({
  name: Joi.string().trim().min(1).max(80).required(),
  meetsOn: validDay,
});
const fileRequest = Joi.object<PackFileRequest>({
  drawings: Joi.object()
    .pattern(/^[a-z][a-z0-9]{0,19}$/i, validDrawing)
    .max(MOST_PAGES),
});

/** Decisions of a meeting that are read at most. */
const MOST_DECISIONS = 500;

/** A report that a page shows, with its name. */
interface Shown {
  name: string;
  about: string;
  design: ReportDesign;
}

/** Meeting packs: what is noted in them, frozen of them, printed of them, and made from them. */
@Controller('api/v1/packs')
export class PacksController {
  constructor(
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly freezer: Freezer,
    private readonly files: ReportFiles,
    private readonly organisation: Organisation,
  ) {}

  /** Notes a decision, which is done with being said, or a follow-up, which is to be done. */
  @ForTokens('all')
  @Post(':id/notes')
  async note(
    @ByHand() writing: WriteContext,
    @RecordId() id: number,
    @CheckedBody(noteRequest) noted: CheckedAs<typeof noteRequest>,
  ): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      await unit.find('pack', id);
      const { kind, text, on, dueOn, owner } = noted;
      const context = await unit.context();
      const { personId } = unit.actor;
      const activity = await unit.create('activity', {
        name: text,
        kind: 'task',
        dueOn: dueOn ?? context.today,
        owner: owner ?? personId,
        ...(on ? { [on.object]: on.id } : {}),
      });
      const done = kind === 'decision' ? { doneAt: unit.at, doneBy: personId } : {};
      unit.label = `${kind === 'decision' ? 'Decision' : 'Follow-up'}: “${text}”`;
      return unit.change(
        'activity',
        activity.id,
        { pack: id, ...done },
        { setter: 'feature', before: activity },
      );
    });
  }

  /** Freezes the reports of a pack into a folder, and has the pack show them as they were frozen. */
  @ForTokens('all')
  @Post(':id/freeze')
  async freeze(
    @ByHand() writing: WriteContext,
    @RecordId() id: number,
    @CheckedBody(freezeRequest) { folder, seenBy }: CheckedAs<typeof freezeRequest>,
  ): Promise<Written<FrozenPackAnswer>> {
    const { actor } = writing;
    const { pack, design } = await this.found(actor, id);
    const taken = new Map<string, { shown: Shown; taken: Awaited<ReturnType<Freezer['take']>> }>();
    for (const page of design.pages) {
      const shown = page.kind === 'report' ? await this.shown(actor, page, design) : undefined;
      if (shown) taken.set(page.key, { shown, taken: await this.freezer.take(actor, shown.design) });
    }
    return this.door.write(writing, async (unit) => {
      if (taken.size === 0) throw new Problem('conflict', 'There is no live report in this pack to freeze.');
      const snapshots = new Map<string, number>();
      for (const [key, { shown, taken: one }] of taken) {
        const values = { name: shown.name, about: shown.about, folder, seenBy };
        snapshots.set(key, (await this.freezer.keep(unit, one, values)).id);
      }
      const changed = await unit.change(
        'pack',
        id,
        { design: JSON.stringify(frozenPack(design, snapshots)) },
        { version: pack.version },
      );
      unit.label = `Frozen: “${pack.name}”`;
      return { pack: changed as unknown as Pack, frozen: snapshots.size };
    });
  }

  /** Makes the pack for the meeting after this one, live again and with this one’s decisions in front. */
  @ForTokens('all')
  @Post(':id/next')
  next(
    @ByHand() writing: WriteContext,
    @RecordId() id: number,
    @CheckedBody(nextRequest) { name, meetsOn }: CheckedAs<typeof nextRequest>,
  ): Promise<Written<Pack>> {
    return this.door.write(writing, async (unit) => {
      const before = (await unit.find('pack', id)) as unknown as Pack;
      const design = designOf(before);
      const { sharing, teams } = before;
      const values = {
        name,
        meetsOn: meetsOn ?? null,
        design: JSON.stringify(nextPack(design)),
        previous: id,
        sharing,
        ...(sharing === 'teams' ? { teams } : {}),
      };
      return (await unit.create('pack', values)) as unknown as Pack;
    });
  }

  /** A pack as one PDF with its contents in front. */
  @ForTokens('all')
  @Gives(fileTypes.pdf)
  @Post(':id/file')
  @HttpCode(200)
  async file(
    @CurrentActor() actor: Actor,
    @RecordId() id: number,
    @CheckedBody(fileRequest) { drawings = {} }: CheckedAs<typeof fileRequest>,
    @Res() response: Response,
  ): Promise<void> {
    const { pack, design } = await this.found(actor, id);
    const printed: Content[] = [];
    const add = (content: Content[]) => printed.push({ stack: content, pageBreak: 'before' });
    mayTakeOut(actor, 'activity');
    const decided = pack.previous === null ? [] : await this.decisions(actor, pack.previous);
    if (decided.length > 0) add([heading('What was decided last time'), ...decided.map(decisionLine)]);
    for (const page of design.pages) add(await this.printedPage(actor, page, design, drawings));
    const noted = await this.decisions(actor, id);
    if (noted.length > 0) add([heading('What was decided'), ...noted.map(decisionLine)]);
    const made = await pages(pack.name, [
      { text: pack.name, fontSize: 24, margin: [0, 120, 0, 6] },
      ...(pack.meetsOn ? [{ text: pack.meetsOn, color: '#555555' }] : []),
      { toc: { title: { text: 'Contents', fontSize: 14, margin: [0, 30, 0, 8] } } },
      ...printed,
    ]);
    sendFile(response, 'pdf', 'meeting-pack', made);
  }

  /** One page of a pack as the content of pages; where it cannot be shown it says why. */
  private async printedPage(
    actor: Actor,
    page: PackPage,
    design: PackDesign,
    drawings: Record<string, string>,
  ): Promise<Content[]> {
    const { key, title } = page;
    const drawing = drawingIn({ ...(drawings[key] ? { drawing: drawings[key] } : {}) });
    if (page.kind === 'note') return [heading(title ?? 'Note'), { text: page.text, margin: [0, 8, 0, 0] }];
    if (page.kind === 'dashboard')
      return [
        heading(title ?? 'Dashboard'),
        drawing
          ? { image: `data:image/png;base64,${drawing.toString('base64')}`, width: 760 }
          : { text: 'A dashboard is looked at on the screen; its reports can be pages of the pack.' },
      ];
    try {
      if (page.kind === 'snapshot') {
        const snapshot = (await this.gate.find(actor, 'snapshot', page.snapshot)) as unknown as Snapshot;
        const { frozen, answer } = await this.freezer.open(actor, snapshot);
        for (const { question } of frozen.parts) mayTakeOut(actor, question.object);
        if (!answer.answer) return [heading(title ?? snapshot.name), { text: 'This is not yours to see.' }];
        const context = contextThen(frozen, await this.organisation.catalogue());
        const report = await this.files.answered(actor, frozen.design, answer.answer, context);
        return printedReport(
          report,
          { name: title ?? snapshot.name, about: `As it stood on ${frozen.moment.today}` },
          drawing,
        );
      }
      const shown = await this.shown(actor, page, design);
      mayTakeOut(actor, shown.design.question.object);
      const context = await this.gate.context(actor);
      const answer = await answerReport(shown.design, context, (question) =>
        this.gate.figures(actor, question, 'leftOut'),
      );
      // A page passes for the whole: what could not be asked stands there instead.
      if (answer.leftOut.length > 0)
        return [
          heading(title ?? shown.name),
          ...answer.leftOut.map((part) => ({ text: leftOutInWords(part) })),
        ];
      const report = await this.files.answered(actor, shown.design, answer, context);
      return printedReport(report, { name: title ?? shown.name, about: shown.about }, drawing);
    } catch (error) {
      // What somebody may not hand out stops the file; what is gone is said in its place.
      if (!(error instanceof Problem) || error.kind === 'not-allowed') throw error;
      return [heading(title ?? 'A page'), { text: error.detail }];
    }
  }

  /** The report that a page shows, narrowed to what is chosen for the pack. */
  private async shown(
    actor: Actor,
    page: ReportPage & { title?: string },
    { choice = {} }: PackDesign,
  ): Promise<Shown> {
    const { name, about, design } = await this.named(actor, page);
    const { catalogue } = await this.gate.context(actor);
    const teams = await this.organisation.teams();
    const narrowed = narrowedReport(page.design ?? design, choice, { catalogue, teams }).asked;
    return { name: page.title ?? name, about, design: narrowed };
  }

  private async named(actor: Actor, page: ReportPage): Promise<Shown> {
    if (page.report !== undefined) {
      const report = (await this.gate.find(actor, 'report', page.report)) as unknown as Report;
      const design = reportDesignOf(report);
      if (!design) throw new Problem('conflict', `The report “${report.name}” cannot be read.`);
      return { name: report.name, about: report.about ?? '', design };
    }
    const found = page.ready === undefined ? undefined : readyReport(page.ready);
    if (found) return found;
    return { name: 'A report', about: '', design: page.design ?? readyReports[0].design };
  }

  /** What was noted in a pack, as far as somebody sees it, the earliest first. */
  private async decisions(actor: Actor, pack: number): Promise<AnyRecord[]> {
    const question = {
      ...ask('activity', { field: 'pack', is: 'anyOf', value: [pack] }),
      sort: [{ field: 'createdAt' }],
    };
    return (await this.gate.records(actor, question, { offset: 0, limit: MOST_DECISIONS })).rows;
  }

  private async found(actor: Actor, id: number): Promise<{ pack: Pack; design: PackDesign }> {
    const pack = (await this.gate.find(actor, 'pack', id)) as unknown as Pack;
    return { pack, design: designOf(pack) };
  }
}

function designOf(pack: Pack): PackDesign {
  const design = packDesignOf(pack);
  if (!design) throw new Problem('conflict', `The pack “${pack.name}” cannot be read.`);
  return design;
}

const heading = (words: string): Content => ({
  text: words,
  fontSize: 18,
  margin: [0, 0, 0, 8],
  tocItem: true,
});

/** What was noted, and what became of it. */
function decisionLine({ name, dueOn, doneAt, createdAt }: AnyRecord): Content {
  const state =
    doneAt === null
      ? `to be done by ${String(dueOn)}`
      : String(doneAt) === String(createdAt)
        ? 'decided'
        : `done on ${String(doneAt).slice(0, 10)}`;
  return { text: [{ text: String(name) }, { text: ` · ${state}`, color: '#555555' }], margin: [0, 3, 0, 0] };
}
