import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { fieldOf, type Actor, type AnyRecord, type ScoreAnswer, type Written } from '@zawn/core';
import { CheckedBody, type CheckedAs, RecordId } from '../../platform/http/checked';
import { Database } from '../../platform/database/database';
import { Problem } from '../../platform/http/problem';
import { Gate } from '../../kernel/questions/gate';
import { Door, type WriteContext } from '../../kernel/records/door';
import { CurrentActor, Version } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { scoreOfLead } from './lead-derivation';
import { ForPrograms } from '../../platform/sessions/scopes';

interface Disqualifying {
  disqualifyReason: string;
  disqualifyComment?: string | null;
  lookAgainOn?: string | null;
}

const disqualifying = Joi.object<Disqualifying>({
  disqualifyReason: Joi.string()
    .max(60)
    .required()
    .label('Reason')
    .messages({ 'any.required': 'Reason is missing' }),
  disqualifyComment: Joi.string().max(2000).allow('', null).label('Comment'),
  lookAgainOn: Joi.string().max(10).allow('', null).label('Look again on'),
});

/** What is found out about a lead: its score with why, and that it is not pursued. */
@ForPrograms()
@Controller('api/v1/leads/:id')
export class QualifyingController {
  constructor(
    private readonly door: Door,
    private readonly gate: Gate,
    private readonly database: Database,
  ) {}

  /** The score with each rule that gave points. */
  @Get('score')
  async score(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<ScoreAnswer> {
    const lead = await this.gate.find(actor, 'lead', id);
    return scoreOfLead({ gate: this.gate, manager: this.database.reading.manager }, lead.id);
  }

  /** Lets a lead go for a reason from the list; with a date to look again, plans that on it. */
  @Post('disqualify')
  @HttpCode(200)
  async disqualify(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
    @CheckedBody(disqualifying) why: CheckedAs<typeof disqualifying>,
  ): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      const lead = await unit.find('lead', id);
      const statuses = fieldOf(unit.catalogue, 'lead', 'status')?.choices ?? [];
      const kind = statuses.find(({ key }) => key === lead.status)?.kind;
      if (kind === 'disqualified') throw new Problem('conflict', 'This lead is disqualified already.');
      unit.label = `Disqualified “${String(lead.name)}”`;
      const letGo = { ...why, status: 'disqualified' };
      const changed = await unit.change('lead', lead.id, letGo, { version, setter: 'feature' });
      if (changed.lookAgainOn)
        await unit.create(
          'activity',
          {
            name: `Look again: ${String(lead.name)}`.slice(0, 200),
            kind: 'task',
            dueOn: changed.lookAgainOn,
            owner: lead.owner,
            lead: lead.id,
          },
          'hand',
          ['owner'],
        );
      return changed;
    });
  }
}
