import { Injectable } from '@nestjs/common';
import {
  ask,
  narrowedReport,
  packDesignOf,
  readyReport,
  reportDesignOf,
  type Actor,
  type AnyRecord,
  type DashboardChoice,
  type Pack,
  type PackDesign,
  type Report,
  type ReportDesign,
  type ReportPage,
} from '@zawn/core';
import { notFound, Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';

/** What of a meeting is read at most. */
const MOST_NOTED = 500;

/** A report that a page shows, with its name. */
export interface ShownReport {
  name: string;
  about: string;
  design: ReportDesign;
}

/** Finds what the pages of packs show, and what was noted in them. */
@Injectable()
export class PackPages {
  constructor(
    private readonly gate: Gate,
    private readonly organisation: Organisation,
  ) {}

  /** @throws Problem `not-found` where a pack is not there or not somebody's to see. */
  async find(actor: Actor, id: number): Promise<{ pack: Pack; design: PackDesign }> {
    const pack = (await this.gate.find(actor, 'pack', id)) as unknown as Pack;
    return { pack, design: pagesOf(pack) };
  }

  /**
   * The report that a page or a tile shows, narrowed to what is chosen for all.
   * @throws Problem `not-found` where it is gone or not somebody's to see.
   */
  async report(
    actor: Actor,
    page: Omit<ReportPage, 'kind'> & { title?: string },
    choice: DashboardChoice = {},
  ): Promise<ShownReport> {
    const { name, about, design } = await this.named(actor, page);
    const { catalogue } = await this.gate.context(actor);
    const teams = await this.organisation.teams();
    const { asked } = narrowedReport(page.design ?? design, choice, { catalogue, teams });
    // What a report says of its own days is not so of those that were chosen for all.
    const isOtherwise = choice.period !== undefined && asked.period !== undefined;
    return { name: page.title ?? name, about: isOtherwise ? '' : about, design: asked };
  }

  /** What was noted in a pack, as far as somebody sees it, the earliest first. */
  async noted(actor: Actor, pack: number): Promise<AnyRecord[]> {
    const question = {
      ...ask('activity', { field: 'pack', is: 'anyOf', value: [pack] }),
      sort: [{ field: 'createdAt' }],
    };
    return (await this.gate.records(actor, question, { offset: 0, limit: MOST_NOTED })).rows;
  }

  private async named(
    actor: Actor,
    { report, ready, design: own }: Omit<ReportPage, 'kind'>,
  ): Promise<ShownReport> {
    if (report !== undefined) {
      const kept = (await this.gate.find(actor, 'report', report)) as unknown as Report;
      const design = reportDesignOf(kept);
      if (!design) throw new Problem('conflict', `The report “${kept.name}” cannot be read.`);
      return { name: kept.name, about: kept.about ?? '', design };
    }
    const found = ready === undefined ? undefined : readyReport(ready);
    if (found) return found;
    if (!own) throw notFound('The report of this page');
    return { name: 'A report', about: '', design: own };
  }
}

/** @throws Problem `conflict` where the pages of a pack cannot be read. */
export function pagesOf(pack: Pack): PackDesign {
  const design = packDesignOf(pack);
  if (!design) throw new Problem('conflict', `The pack “${pack.name}” cannot be read.`);
  return design;
}
