import { Controller, Post, Req, Res, Inject } from '@nestjs/common';
import { type Response } from 'express';
import Joi from 'joi';
import {
  firstRole,
  isCurrency,
  isTimeZone,
  startingLeadGuides,
  systemActor,
  type FirstRun,
} from '@zawn/core';
import { countryCode, validText } from '@zawn/core/validation';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { Clock } from '../../platform/clock/clock';
import { CONFIG } from '../../platform/config/tokens';
import { type Config } from '../../platform/config/config';
import { Database } from '../../platform/database/database';
import { Problem } from '../../platform/http/problem';
import { Door } from '../records/door';
import { type Unit } from '../records/unit';
import { Public, type SignedInRequest } from '../../platform/sessions/current-actor';
import { giveCookie, originOf } from '../sessions/cookies';
import { hashPassword, newPassword, refuseWeak } from '../sessions/passwords';
import { Sessions } from '../sessions/sessions';
import { Organisation } from './organisation';

const firstRun = Joi.object<FirstRun>({
  name: Joi.string().trim().max(200).required().label('Organisation'),
  currency: validText(isCurrency, 'This is not a currency code such as GBP').required(),
  fiscalYearStart: Joi.number().integer().min(1).max(12).required().label('Fiscal year start'),
  weekStart: Joi.number().integer().min(0).max(6).required().label('Week start'),
  timeZone: validText(isTimeZone, 'This is not a time zone such as Europe/London').required(),
  country: validText(
    (value) => countryCode(value) === value,
    'This is not a country code such as GB',
  ).required(),
  person: Joi.object({
    name: Joi.string().trim().max(200).required().label('Your name'),
    email: Joi.string().max(254).required().label('Email'),
    password: newPassword,
  }).required(),
});

/** Days that sign-ins are kept until somebody wants it otherwise. */
const KEEP_SIGN_INS = 180;

/** A pipeline to start with; operations change it to their own. */
const STARTING_STAGES = [
  ['First talk', 10, 14],
  ['Needs understood', 30, 21],
  ['Offer made', 55, 30],
  ['Agreed in words', 85, 14],
] as const;

/** Creates the organisation and its first person, once. */
@Controller('api/v1/organisation')
export class FirstRunController {
  private creating = false;

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly door: Door,
    private readonly sessions: Sessions,
    private readonly clock: Clock,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  /** Creates the organisation, its first person, a pipeline and guides to start with, and signs the person in. */
  @Public()
  @Post()
  async create(
    @CheckedBody(firstRun) { person, ...settings }: CheckedAs<typeof firstRun>,
    @Req() request: SignedInRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<{ created: true }> {
    if (this.creating || (await this.organisation.exists())) {
      throw new Problem('conflict', 'The organisation has been created already. Sign in instead.');
    }
    await refuseWeak(person.password, person, settings.name, 'person.password');
    this.creating = true;
    try {
      const hash = await hashPassword(person.password);
      const at = this.clock.now();
      const row = {
        id: 1,
        version: 1,
        createdAt: at,
        updatedAt: at,
        keepSignIns: KEEP_SIGN_INS,
        ...settings,
      };
      await this.database.writer.transaction((manager) =>
        // eslint-disable-next-line no-restricted-syntax -- without settings no unit can be begun
        manager.upsert('organisation', row, ['id']),
      );
      const { value: id } = await this.door
        .write({ actor: systemActor, through: 'setup' }, async (unit) => {
          const first = await createPerson(unit, person);
          await unit.manager.insert('credential', { person: first, hash });
          await createPipeline(unit);
          await createLeadGuides(unit);
          return first;
        })
        .catch(async (error: unknown) => {
          await this.database.writer.transaction((manager) =>
            // eslint-disable-next-line no-restricted-syntax -- nothing stays of what was not begun
            manager.delete('organisation', { id: 1 }),
          );
          throw error;
        });
      giveCookie(response, this.config, await this.sessions.begin(id, 'firstStart', originOf(request)));
      return { created: true };
    } finally {
      this.creating = false;
    }
  }
}

async function createPerson(unit: Unit, { name, email }: FirstRun['person']): Promise<number> {
  const team = await unit.create('team', { name: 'Everyone' });
  const person = await unit.create('person', {
    name,
    email,
    role: firstRole,
    team: team.id,
    active: true,
  });
  return person.id;
}

async function createPipeline(unit: Unit): Promise<void> {
  const pipeline = await unit.create('pipeline', { name: 'Sales', position: 0 });
  for (const [position, [name, probability, usualDays]] of STARTING_STAGES.entries()) {
    await unit.create('stage', { name, pipeline: pipeline.id, position, probability, usualDays });
  }
}

async function createLeadGuides(unit: Unit): Promise<void> {
  for (const [status, lines] of Object.entries(startingLeadGuides))
    for (const [position, label] of lines.entries())
      await unit.create('guideItem', { status, kind: 'tick', label, position });
}
