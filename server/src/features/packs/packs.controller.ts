import { Controller, HttpCode, Post, Res } from '@nestjs/common';
import { type Response } from 'express';
import Joi from 'joi';
import {
  frozenPack,
  nextPack,
  subjectKeys,
  type Actor,
  type AnyRecord,
  type FreezePackRequest,
  type FrozenPackAnswer,
  type NextPackRequest,
  type NoteInPackRequest,
  type Pack,
  type PackFileRequest,
  type Written,
} from '@zawn/core';
import { validDay } from '@zawn/core/validation';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { Gives } from '../../platform/http/described';
import { Problem } from '../../platform/http/problem';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForTokens } from '../../platform/sessions/scopes';
import { ByHand } from '../../kernel/records/by-hand';
import { Door, type WriteContext } from '../../kernel/records/door';
import { fileTypes, sendFile, validDrawing } from '../reports/report-files';
import { Freezer, type Taken } from '../snapshots/freezer';
import { PackPages, pagesOf, type ShownReport } from './pack-pages';
import { PackPrint } from './pack-print';

const id = Joi.number().integer().positive().max(9e15);

/** Drawings of one file: of its pages, and of the tiles of its dashboards. */
const MOST_DRAWINGS = 200;

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
    .pattern(/^[a-z][a-z0-9]{0,19}(\.[a-z][a-z0-9]{0,19})?$/i, validDrawing)
    .max(MOST_DRAWINGS),
});

/** Meeting packs: what is noted in them, frozen of them, printed of them, and made from them. */
@Controller('api/v1/packs')
export class PacksController {
  constructor(
    private readonly door: Door,
    private readonly packs: PackPages,
    private readonly freezer: Freezer,
    private readonly print: PackPrint,
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
        kind: kind === 'decision' ? 'decision' : 'task',
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
    const { pack, design } = await this.packs.find(actor, id);
    const taken = new Map<string, { shown: ShownReport; taken: Taken }>();
    for (const page of design.pages) {
      const shown = page.kind === 'report' ? await this.packs.report(actor, page, design.choice) : undefined;
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
      const design = pagesOf(before);
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
    sendFile(response, 'pdf', 'meeting-pack', await this.print.pdf(actor, id, drawings));
  }
}
