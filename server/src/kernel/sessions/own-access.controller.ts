import { Controller, Delete, Get, HttpCode, Param, Patch, Post, Req } from '@nestjs/common';
import Joi from 'joi';
import { type Actor, type NewSecondStep, type OwnAccess } from '@zawn/core';
import { Events } from '../../platform/events/events';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { invalidInput, Problem } from '../../platform/http/problem';
import { BeforeSecondStep, CurrentActor, type SignedInRequest } from '../../platform/sessions/current-actor';
import { Organisation } from '../organisation/organisation';
import { newPassword, Passwords } from './passwords';
import { SecondSteps } from './second-steps';
import { Sessions } from './sessions';
import { SignInTries } from './sign-in-tries';

const present = Joi.string().max(200).required().label('Present password');
const changing = Joi.object<{ present: string; password: string }>({ present, password: newPassword });
const confirming = Joi.object<{ code: string }>({ code: Joi.string().max(20).required().label('Code') });
const proving = Joi.object<{ present: string }>({ present });

/** One's own way in: password, second step, and where one is signed in. */
@BeforeSecondStep()
@Controller('api/v1/session')
export class OwnAccessController {
  constructor(
    private readonly sessions: Sessions,
    private readonly passwords: Passwords,
    private readonly secondSteps: SecondSteps,
    private readonly organisation: Organisation,
    private readonly tries: SignInTries,
    private readonly events: Events,
  ) {}

  /** Where the person is signed in, what was tried last, and whether a second step is on. */
  @Get('access')
  async access(@CurrentActor() { personId }: Actor, @Req() request: SignedInRequest): Promise<OwnAccess> {
    const [isOn, isAsked, recoveryCodesLeft, own] = await Promise.all([
      this.secondSteps.isOn(personId),
      this.organisation.asksForSecondStep(personId),
      this.secondSteps.recoveryCodesLeft(personId),
      this.sessions.of(personId, request.sessionToken ?? ''),
    ]);
    return { ...own, secondStep: { isOn, isAsked, recoveryCodesLeft } };
  }

  /** Changes the person's password and ends their other sessions. */
  @Patch('password')
  @HttpCode(204)
  async changePassword(
    @CurrentActor() actor: Actor,
    @CheckedBody(changing) { present: given, password }: CheckedAs<typeof changing>,
    @Req() request: SignedInRequest,
  ): Promise<void> {
    await this.guarded(actor, request, () =>
      this.passwords.change(actor, given, password, request.sessionToken ?? ''),
    );
    this.events.end(actor.personId);
  }

  /** Ends the person's sessions everywhere else. */
  @Delete('others')
  @HttpCode(204)
  async endOthers(@CurrentActor() { personId }: Actor, @Req() request: SignedInRequest): Promise<void> {
    await this.sessions.endOthers(personId, request.sessionToken ?? '');
    this.events.end(personId);
  }

  /** Ends one of the person's sessions. */
  @Delete('others/:session')
  @HttpCode(204)
  async end(@CurrentActor() { personId }: Actor, @Param('session') session: string): Promise<void> {
    await this.sessions.endOwn(personId, session);
    // Browsers that are still signed in come back at once; the other learns that it is not.
    this.events.end(personId);
  }

  /** Sets up a second step: the secret for the person's device, shown once. */
  @Post('second-step')
  async beginSecondStep(@CurrentActor() { personId }: Actor): Promise<NewSecondStep> {
    const person = (await this.organisation.people()).find(({ id }) => id === personId);
    return this.secondSteps.begin(personId, person?.email ?? '');
  }

  /** Turns the second step on with its first code; answers the recovery codes, which are shown once. */
  @Patch('second-step')
  async confirmSecondStep(
    @CurrentActor() { personId }: Actor,
    @CheckedBody(confirming) { code }: CheckedAs<typeof confirming>,
  ): Promise<{ recoveryCodes: string[] }> {
    return { recoveryCodes: await this.secondSteps.confirm(personId, code) };
  }

  /** Takes the second step off; the password is asked once more. */
  @Delete('second-step')
  @HttpCode(204)
  async removeSecondStep(
    @CurrentActor() actor: Actor,
    @CheckedBody(proving) { present: given }: CheckedAs<typeof proving>,
    @Req() request: SignedInRequest,
  ): Promise<void> {
    if (await this.organisation.asksForSecondStep(actor.personId))
      throw new Problem('conflict', 'Your role asks for a second step, so it stays on.');
    await this.guarded(actor, request, async () => {
      if (!(await this.passwords.isRight(actor.personId, given)))
        throw invalidInput([{ field: 'present', message: 'This is not your present password' }]);
    });
    await this.secondSteps.remove(actor.personId);
  }

  /** Slows down whoever guesses a password from an open browser, as at the door. */
  private async guarded(
    { personId }: Actor,
    request: SignedInRequest,
    work: () => Promise<void>,
  ): Promise<void> {
    const origin = { account: `person ${personId}`, address: request.ip ?? '' };
    const done = await this.tries.admit(origin);
    let isRight = false;
    try {
      await work();
      isRight = true;
    } finally {
      done(isRight);
    }
  }
}
