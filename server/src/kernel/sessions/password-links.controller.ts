import { Controller, Get, HttpCode, Inject, Param, Post, Req, Res } from '@nestjs/common';
import { type Response } from 'express';
import Joi from 'joi';
import {
  type Actor,
  type NewPasswordLink,
  type PasswordLink,
  type PersonAccess,
  type SignedIn,
} from '@zawn/core';
import { type Config } from '../../platform/config/config';
import { CONFIG } from '../../platform/config/tokens';
import { type Asked } from '../../platform/database/once';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { CurrentActor, Once, Public, type SignedInRequest } from '../../platform/sessions/current-actor';
import { SessionData } from '../organisation/session-data';
import { AccessOverview } from './access-overview';
import { giveCookie, originOf } from './cookies';
import { LooksAfterPeople } from './looks-after-people';
import { PasswordLinks } from './password-links';
import { newPassword } from './passwords';
import { SecondSteps } from './second-steps';
import { Sessions } from './sessions';
import { SignInTries } from './sign-in-tries';

const choosing = Joi.object<{ password: string }>({ password: newPassword });
const asking = Joi.object<{ email: string }>({
  email: Joi.string().max(254).required().label('Email'),
});

/** How people get in who have no password yet, or have forgotten it. */
@Controller('api/v1')
export class PasswordLinksController {
  constructor(
    private readonly links: PasswordLinks,
    private readonly overview: AccessOverview,
    private readonly sessions: Sessions,
    private readonly secondSteps: SecondSteps,
    private readonly data: SessionData,
    private readonly tries: SignInTries,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  /** How each person gets in: whether they have a password, a second step, a link that works, and when they came. */
  @LooksAfterPeople()
  @Get('people/access')
  async access(): Promise<{ people: PersonAccess[] }> {
    return { people: await this.overview.all() };
  }

  /** Makes a link with which a person sets a password, and sends it where mail is sent. It is shown once. */
  @LooksAfterPeople()
  @Post('people/:id/password-link')
  make(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @RecordId() id: number,
  ): Promise<NewPasswordLink> {
    return this.links.make(actor, id, asked);
  }

  /** Takes a person's second step off, for whoever has lost their device. */
  @LooksAfterPeople()
  @Post('people/:id/second-step/removal')
  @HttpCode(204)
  async removeSecondStep(@Once() asked: Asked | undefined, @RecordId() id: number): Promise<void> {
    await this.secondSteps.remove(id, asked);
  }

  /** Sends a link to whoever has this address; the answer is the same where nobody does. */
  @Public()
  @Post('password-links')
  @HttpCode(202)
  async request(
    @CheckedBody(asking) { email }: CheckedAs<typeof asking>,
    @Req() request: SignedInRequest,
  ): Promise<{ received: true }> {
    const origin = { account: `link ${email.trim().toLowerCase()}`, address: request.ip ?? '' };
    const done = await this.tries.admit(origin);
    done(false);
    await this.links.request(email);
    return { received: true };
  }

  /** Whose password a link sets, and until when it works. */
  @Public()
  @Get('password-links/:secret')
  find(@Param('secret') secret: string): Promise<PasswordLink> {
    return this.links.find(secret);
  }

  /** Sets the password, ends the link and every session of the person, and signs them in; a second step is asked first. */
  @Public()
  @Post('password-links/:secret')
  @HttpCode(201)
  async use(
    @Param('secret') secret: string,
    @CheckedBody(choosing) { password }: CheckedAs<typeof choosing>,
    @Req() request: SignedInRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<SignedIn | { signedIn: false }> {
    const { id } = await this.links.use(secret, password);
    // The link stands in for the password alone.
    if (await this.secondSteps.isOn(id)) return { signedIn: false };
    const session = await this.sessions.begin(id, 'link', originOf(request));
    giveCookie(response, this.config, session);
    const signed = await this.sessions.find(session.token);
    if (!signed) return { signedIn: false };
    const owesSecondStep = await this.secondSteps.isOwed(id);
    return { signedIn: true, csrf: signed.csrf, owesSecondStep, ...(await this.data.of(signed.actor)) };
  }
}
