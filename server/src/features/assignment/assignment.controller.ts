import { Body, Controller, Get, HttpCode, Patch, Post } from '@nestjs/common';
import Joi from 'joi';
import { type Actor, type AssignmentTrial } from '@zawn/core';
import { checkRecord } from '@zawn/core/validation';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { May } from '../../platform/sessions/may';
import { TakesValues } from '../../platform/http/described';
import { invalidInput, Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { ByHand } from '../../kernel/records/by-hand';
import { Door, type WriteContext } from '../../kernel/records/door';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { Assignment } from './assignment';
import { ForPrograms } from '../../platform/sessions/scopes';

const setting = Joi.object<{ person: number }>({
  person: Joi.number().integer().positive().required().label('Default owner'),
});

@May('setUpAssignment', 'Your role does not let you look at the assignment rules.')
@ForPrograms()
@Controller('api/v1/assignment')
export class AssignmentController {
  constructor(
    private readonly assignment: Assignment,
    private readonly organisation: Organisation,
    private readonly door: Door,
  ) {}

  /** Who would get a lead with these values. Nothing is written. */
  @TakesValues({ purpose: 'change', object: 'lead' })
  @Post('try')
  @HttpCode(200)
  async try(@CurrentActor() actor: Actor, @Body() body: unknown): Promise<AssignmentTrial> {
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

  /** Who gets what no rule gives to anyone. */
  @Get('default')
  async defaultOwner(): Promise<{ person: number }> {
    return { person: await this.assignment.defaultOwner() };
  }

  /** Sets who gets what no rule gives to anyone. */
  @Patch('default')
  async setDefault(
    @ByHand() writing: WriteContext,
    @CheckedBody(setting) { person }: CheckedAs<typeof setting>,
  ): Promise<{ person: number }> {
    const people = await this.organisation.people();
    if (!people.some(({ id, active }) => id === person && active))
      throw invalidInput([{ field: 'person', message: 'Default owner: there is no such person' }]);
    await this.door.write(writing, (unit) => {
      // It stands at the organisation, and is part of the rules all the same.
      if (!unit.policy.allows('assignmentRule', 'edit'))
        throw new Problem('not-allowed', 'Your role does not let you change the assignment rules.');
      return unit.change('organisation', 1, { defaultOwner: person }, { permittedBy: 'setUpAssignment' });
    });
    return { person };
  }
}
