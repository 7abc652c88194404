import { Injectable } from '@nestjs/common';
import { In, IsNull, LessThan, type FindOptionsWhere } from 'typeorm';
import {
  readSubmission,
  systemActor,
  TRAP,
  type Actor,
  type AnyRecord,
  type FormDesign,
  type FormFaults,
  type FormFigures,
  type RecordOf,
  type Submission,
  type SubmissionOrigin,
  type SubmissionsPage,
  type Typed,
  type Written,
} from '@zawn/core';
import { Capture } from '../capture/capture';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type SubmissionRow } from '../../platform/database/rows';
import { Events } from '../../platform/events/events';
import { notFound, Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Door, type WriteContext } from '../../kernel/records/door';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { PageKeys } from './page-keys';

export type Form = Omit<RecordOf<'form'>, 'design'> & { id: number; design: FormDesign };

/** What a browser sent. */
export interface Sent {
  typed: Typed;
  key: string;
  origin: SubmissionOrigin;
}

/** What came of sending a form. */
export type Answer =
  | { is: 'thanks' | 'closed' }
  | {
      is: 'again';
      faults: FormFaults;
      notice?: string;
      /** The key of the page as it was: whoever mends one field is quick, and no program. */
      key?: string;
    };

const PAGE = 50;
const LONGEST = 5000;

type FormRow = RecordOf<'form'> & { id: number };

const formOf = (row: FormRow): Form => ({ ...row, design: JSON.parse(row.design) as FormDesign });

/** Web forms: what is published, what was sent through them, and the leads that became of it. */
@Injectable()
export class Forms {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly capture: Capture,
    private readonly keys: PageKeys,
    private readonly clock: Clock,
    private readonly events: Events,
  ) {}

  /** The form published at an address; undefined when there is none. */
  async at(slug: string): Promise<Form | undefined> {
    const rows = this.database.reading.getRepository<FormRow & { deletedAt: string | null }>('form');
    const row = await rows.findOneBy({ slug, deletedAt: IsNull() });
    return row ? formOf(row) : undefined;
  }

  /** Takes in what a visitor sent: it becomes a lead, is held back, or goes back to them with what is wrong. */
  async submit(form: Form, { typed, key, origin }: Sent): Promise<Answer> {
    if (!form.active) return { is: 'closed' };
    const reading = await this.keys.read(form.slug, key);
    if (reading.is === 'invalid') {
      const notice = 'This page was open for very long. Nothing is lost: please send it once more.';
      return { is: 'again', faults: {}, notice };
    }
    const { values, faults, consent } = await this.read(form, typed);
    if (Object.keys(faults).length > 0) return { is: 'again', faults, key };
    const row: NewSubmission = {
      form: form.id,
      at: this.clock.now(),
      state: 'taken',
      why: null,
      typed: JSON.stringify(whatWasTyped(form, typed)),
      origin: JSON.stringify(origin),
      consent,
      lead: null,
      key: reading.nonce,
    };
    const why = looksLikeProgram(typed, reading.is === 'fast');
    if (why) {
      await this.database.writer.transaction(async (manager) => {
        if (!(await manager.existsBy('submission', { key: row.key })))
          await manager.insert('submission', { ...row, state: 'held', why });
      });
      this.events.tell(new Set(['lead']));
      return { is: 'thanks' };
    }
    try {
      await this.door.write({ actor: systemActor, through: 'form' }, async (unit) => {
        // Sent twice from the same page, it is one.
        if (await unit.manager.existsBy('submission', { key: row.key })) return;
        const lead = await this.leadOf(unit, form, values, origin);
        await unit.manager.insert('submission', { ...row, lead: lead.id });
      });
      return { is: 'thanks' };
    } catch (error) {
      return { ...sentBack(form, error), key };
    }
  }

  /** Makes a lead of what was held back. */
  async take(writing: WriteContext, id: number): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      const row = await unit.manager.findOneBy<SubmissionRow>('submission', { id });
      if (!row) throw notFound('This submission');
      if (row.state !== 'held') throw new Problem('conflict', 'This is a lead already.');
      const form = formOf(await unit.manager.findOneByOrFail<FormRow>('form', { id: row.form }));
      const typed = Object.fromEntries(
        Object.entries(JSON.parse(row.typed) as Typed).map(([key, value]) => [`field-${key}`, value]),
      );
      const { values } = await this.read(form, typed);
      const lead = await this.leadOf(unit, form, values, JSON.parse(row.origin) as SubmissionOrigin);
      await unit.manager.update('submission', id, { state: 'taken', lead: lead.id });
      return lead;
    });
  }

  /** What was sent through a form, newest first. A lead out of the person's reach is not named. */
  async submissions(actor: Actor, form: number, before?: number): Promise<SubmissionsPage> {
    const repository = this.database.reading.getRepository<SubmissionRow>('submission');
    const where: FindOptionsWhere<SubmissionRow> = { form };
    const [rows, total] = await Promise.all([
      repository.find({
        where: before ? { ...where, id: LessThan(before) } : where,
        order: { id: 'DESC' },
        take: PAGE + 1,
      }),
      repository.countBy(where),
    ]);
    const page = rows.slice(0, PAGE);
    const leads = await this.gate.visible(
      actor,
      'lead',
      page.flatMap(({ lead }) => lead ?? []),
    );
    return {
      rows: page.map((row) => shown(row, leads)),
      total,
      next: rows.length > PAGE ? page[PAGE - 1].id : null,
    };
  }

  /** How much came through each form, how much of it is held back, and when the latest. */
  async figures(): Promise<FormFigures[]> {
    return this.database.reading
      .createQueryBuilder()
      .select('s.form', 'form')
      .addSelect('COUNT(*)', 'sent')
      .addSelect(`SUM(CASE WHEN s.state = 'held' THEN 1 ELSE 0 END)`, 'held')
      .addSelect('MAX(s.at)', 'latest')
      .from('submission', 's')
      .groupBy('s.form')
      .getRawMany<FormFigures>();
  }

  /** The latest of what these leads sent before an instant, with the name of the form. */
  async sentBy(
    leads: readonly number[],
    before: string,
    limit: number,
  ): Promise<{ form: string; submission: Submission }[]> {
    if (leads.length === 0) return [];
    const rows = await this.database.reading.getRepository<SubmissionRow>('submission').find({
      where: { lead: In([...leads]), at: LessThan(before) },
      order: { at: 'DESC' },
      take: limit,
    });
    if (rows.length === 0) return [];
    const forms = await this.database.reading
      .getRepository<FormRow>('form')
      .findBy({ id: In(rows.map(({ form }) => form)) });
    const names = new Map(forms.map(({ id, name }) => [id, name]));
    return rows.map((row) => ({ form: names.get(row.form) ?? '', submission: shown(row, new Map()) }));
  }

  private async read({ design }: Form, typed: Typed) {
    const [catalogue, { currency, timeZone }] = await Promise.all([
      this.organisation.catalogue(),
      this.organisation.settings(),
    ]);
    return readSubmission(design, catalogue, typed, { currency, timeZone });
  }

  private leadOf(unit: Unit, form: Form, values: Values, { campaign }: SubmissionOrigin): Promise<AnyRecord> {
    const { source, campaign: own, tags } = form.design.sets;
    unit.label = `From the form “${form.name}”: ${String(values.name)}`;
    const set: Values = {
      ...values,
      ...(source ? { source } : {}),
      ...(tags ? { tags } : {}),
    };
    const from = own ?? campaign.utm_campaign ?? campaign.campaign;
    return this.capture.arrive(unit, from ? { ...set, campaign: from } : set, form);
  }
}

type NewSubmission = Omit<SubmissionRow, 'id'>;

/** Why something was hardly sent by a person; undefined when nothing speaks against it. */
function looksLikeProgram(typed: Typed, isFast: boolean): string | undefined {
  if (typed[TRAP]) return 'Filled in a field that no person sees';
  return isFast ? 'Sent faster than a person types' : undefined;
}

function whatWasTyped({ design }: Form, typed: Typed): Submission['typed'] {
  return Object.fromEntries(
    design.fields.flatMap(({ key }) => {
      const value = typed[`field-${key}`];
      if (value === undefined || value.length === 0) return [];
      return [[key, typeof value === 'string' ? value.slice(0, LONGEST) : value.slice(0, 100)]];
    }),
  );
}

/** What the catalogue refused, as what is wrong with the fields of the form. */
function sentBack({ design }: Form, error: unknown): Answer & { is: 'again' } {
  if (!(error instanceof Problem) || error.kind !== 'invalid-input') throw error;
  const faults: FormFaults = {};
  let notice: string | undefined;
  for (const { field, message } of error.more.faults ?? []) {
    if (design.fields.some(({ key }) => key === field)) faults[field] = message;
    else notice = 'This form cannot be sent as it is set up. Please call us instead.';
  }
  return { is: 'again', faults, ...(notice ? { notice } : {}) };
}

function shown(row: SubmissionRow, leads: ReadonlyMap<number, AnyRecord>): Submission {
  const { id, form, at, state, why, typed, origin, consent, lead } = row;
  const found = lead === null ? undefined : leads.get(lead);
  return {
    id,
    form,
    at,
    state,
    why,
    typed: JSON.parse(typed) as Submission['typed'],
    origin: JSON.parse(origin) as SubmissionOrigin,
    consent,
    lead: found ? { id: found.id, name: String(found.name) } : null,
  };
}
