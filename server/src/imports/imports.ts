import { Injectable } from '@nestjs/common';
import {
  ask,
  type Actor,
  type FieldValue,
  type ImportPreview,
  type ImportReport,
  type ImportRequest,
  type ImportSummary,
  type Written,
} from '@zawn/core';
import {
  identityOf,
  importableFields,
  matchColumns,
  planImport,
  readTable,
  refusedFile,
  UnreadableFile,
  type Refusal,
  type Table,
} from '@zawn/core/imports';
import { Database } from '../database/database';
import { type ImportRow } from '../database/entities';
import { invalidInput, notFound, Problem } from '../http/problem';
import { Organisation } from '../organisation/organisation';
import { Gate } from '../questions/gate';
import { Door, type Writing } from '../records/door';

const SHOWN_ROWS = 200;
const SHOWN_FAULTS = 500;
/** More leads than a rep or a team keeps; beyond it identities are read page by page. */
const IDENTITY_PAGE = 1000;

const countRows = (refused: readonly Refusal[]) => new Set(refused.map(({ row }) => row)).size;

/** Brings leads in from a file: the same plan is shown first and carried out afterwards. */
@Injectable()
export class Imports {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly gate: Gate,
    private readonly door: Door,
  ) {}

  /** What the import would do. Nothing is written. */
  async preview(actor: Actor, request: ImportRequest): Promise<ImportPreview> {
    const { table, columns, plan } = await this.plan(actor, request);
    return {
      headings: table.headings,
      columns,
      rows: table.rows.slice(0, SHOWN_ROWS),
      rowCount: table.rows.length,
      create: plan.create.length,
      skippedRows: plan.skipped.length,
      skipped: plan.skipped.slice(0, SHOWN_FAULTS),
      refusedRows: countRows(plan.refused),
      refused: plan.refused.slice(0, SHOWN_FAULTS),
    };
  }

  /** Writes every good row in one unit, and keeps what happened to the others. */
  async run(writing: Writing, request: ImportRequest): Promise<Written<ImportReport>> {
    return this.door.write({ ...writing, through: 'import' }, async (unit) => {
      const { table, plan } = await this.plan(writing.actor, request);
      if (plan.create.length === 0) {
        throw new Problem('conflict', 'There is no row in this file to create. Nothing was written.');
      }
      for (const { values } of plan.create) await unit.create('lead', values);
      unit.label = `Imported ${plan.create.length} leads from ${request.fileName}`;
      const row: Omit<ImportRow, 'id'> = {
        at: unit.at,
        person: unit.actor.personId,
        object: 'lead',
        fileName: request.fileName,
        unit: unit.id,
        created: plan.create.length,
        skipped: plan.skipped.length,
        refused: countRows(plan.refused),
        refusedFile: refusedFile(table, plan.refused),
      };
      const { identifiers } = await unit.manager.insert('import', row);
      const { created, skipped, refused } = row;
      return { id: Number(identifiers[0].id), created, skipped, refused };
    });
  }

  /** The person's own imports, newest first. */
  async history(actor: Actor): Promise<ImportSummary[]> {
    const rows = await this.database.reading.manager.find<ImportRow>('import', {
      where: { person: actor.personId },
      order: { id: 'DESC' },
      take: 50,
    });
    return rows.map(({ id, at, fileName, unit, created, skipped, refused }) => ({
      id,
      at,
      fileName,
      unit,
      created,
      skipped,
      refused,
    }));
  }

  /** The refused rows of one of the person's own imports, as CSV. */
  async refusedRows(actor: Actor, id: number): Promise<{ fileName: string; csv: string }> {
    const row = await this.database.reading.manager.findOneBy<ImportRow>('import', {
      id,
      person: actor.personId,
    });
    if (!row) throw notFound('This import');
    return { fileName: `refused ${row.fileName}`, csv: row.refusedFile };
  }

  private async plan(actor: Actor, request: ImportRequest) {
    const [settings, people, catalogue] = await Promise.all([
      this.organisation.settings(),
      this.organisation.people(),
      this.organisation.catalogue(),
    ]);
    const table = readFile(request.text);
    const columns = request.columns ?? matchColumns(catalogue, 'lead', table.headings);
    if (columns.length !== table.headings.length) {
      throw new Problem(
        'malformed-request',
        'There must be one field, or none, for each column of the file.',
      );
    }
    const known = new Set(importableFields(catalogue, 'lead').map(([key]) => key));
    const unknown = columns.find((key) => key !== null && !known.has(key));
    if (unknown !== undefined) {
      throw invalidInput([{ field: 'columns', message: `No column can fill “${unknown}”` }]);
    }
    const plan = planImport(table, {
      catalogue,
      object: 'lead',
      columns,
      defaults: { owner: request.owner, status: 'untouched' } satisfies Record<string, FieldValue>,
      locale: { country: settings.country },
      reading: { people, currency: settings.currency },
      known: await this.identities(actor),
    });
    return { table, columns, plan };
  }

  /** Identities of the leads within reach. */
  private async identities(actor: Actor): Promise<ReadonlySet<string>> {
    const known = new Set<string>();
    for (let offset = 0; ; offset += IDENTITY_PAGE) {
      const { rows } = await this.gate.records(actor, ask('lead'), { offset, limit: IDENTITY_PAGE });
      for (const row of rows) known.add(identityOf(row));
      if (rows.length < IDENTITY_PAGE) return known;
    }
  }
}

function readFile(text: string): Table {
  try {
    return readTable(text);
  } catch (error) {
    if (error instanceof UnreadableFile) {
      throw new Problem('invalid-input', `${error.message} Nothing was written.`, {
        faults: [{ field: 'text', message: error.message }],
      });
    }
    throw error;
  }
}
