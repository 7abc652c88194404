import { Body, Controller, Get, HttpCode, Patch, Post } from '@nestjs/common';
import Joi from 'joi';
import { policyOf, type Actor, type AssignmentTrial } from '@zawn/core';
import { checkRecord } from '@zawn/core/validation';
import { Database } from '../../platform/database/database';
import { checked } from '../../platform/http/checked';
import { invalidInput, Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { Assignment } from './assignment';
import { ForPrograms } from '../../platform/sessions/scopes';

const setting = Joi.object<{ person: number }>({
  person: Joi.number().integer().positive().required().label('Default owner'),
});

function mayLook(actor: Actor): void {
  if (!policyOf(actor).may('setUp'))
    throw new Problem('not-allowed', 'Only operations can look at the assignment rules.');
}

@ForPrograms()
@Controller('api/v1/assignment')
export class AssignmentController {
  constructor(
    private readonly assignment: Assignment,
    private readonly organisation: Organisation,
    private readonly database: Database,
  ) {}

  /** Who would get a lead with these values. Nothing is written. */
  @Post('try')
  @HttpCode(200)
  async try(@CurrentActor() actor: Actor, @Body() body: unknown): Promise<AssignmentTrial> {
    mayLook(actor);
    const [catalogue, { country }] = await Promise.all([
      this.organisation.catalogue(),
      this.organisation.settings(),
    ]);
    const check = {
      object: 'lead',
      purpose: 'change',
      setter: 'hand',
      locale: { country },
      catalogue,
    } as const;
    const { value, faults } = checkRecord(check, body);
    if (!value) throw invalidInput(faults);
    return this.assignment.try(actor, value);
  }

  @Get('default')
  async defaultOwner(@CurrentActor() actor: Actor): Promise<{ person: number }> {
    mayLook(actor);
    return { person: await this.assignment.defaultOwner() };
  }

  /** Sets who gets what no rule gives to anyone. */
  @Patch('default')
  async setDefault(@CurrentActor() actor: Actor, @Body() body: unknown): Promise<{ person: number }> {
    mayLook(actor);
    const { person } = checked(setting, body);
    const people = await this.organisation.people();
    if (!people.some(({ id, active }) => id === person && active))
      throw invalidInput([{ field: 'person', message: 'Default owner: there is no such person' }]);
    await this.database.writer.transaction((manager) =>
      manager.update('organisation', 1, { defaultOwner: person }),
    );
    this.organisation.forget();
    return { person };
  }
}
