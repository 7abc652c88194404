import { Body, Controller, Delete, Get, HttpCode, Inject, Post, Req, Res, UseGuards } from '@nestjs/common';
import { ThrottlerGuard } from '@nestjs/throttler';
import { stringifySetCookie } from 'cookie';
import { type Response } from 'express';
import Joi from 'joi';
import { type SessionAnswer, type SignedIn, type SignedOut } from '@zawn/core';
import { checkAgainst } from '@zawn/core/validation';
import { CONFIG } from '../app.tokens';
import { type Config } from '../config';
import { invalidInput, Problem } from '../http/problem';
import { Organisation } from '../organisation/organisation';
import { Setting } from '../organisation/setting';
import { Public, type SignedInRequest } from './asking';
import { COOKIE } from './session.guard';
import { Sessions, type NewSession } from './sessions';

interface Credentials {
  email: string;
  password: string;
}

const credentials = Joi.object<Credentials>({
  email: Joi.string().max(254).required().label('Mail'),
  password: Joi.string().max(200).required().label('Password'),
});

/** Hands a session to the browser: out of reach of scripts, and not sent along from other sites. */
export function giveCookie(response: Response, { token, maxAgeMs }: NewSession): void {
  const cookie = stringifySetCookie({
    name: COOKIE,
    value: token,
    httpOnly: true,
    sameSite: 'lax',
    path: '/',
    maxAge: maxAgeMs / 1000,
  });
  response.append('Set-Cookie', cookie);
}

@Controller('api/v1/session')
export class SessionController {
  constructor(
    private readonly sessions: Sessions,
    private readonly organisation: Organisation,
    private readonly setting: Setting,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  /** Who is signed in and the setting they work in; before that, what the sign-in page needs. */
  @Public()
  @Get()
  async who(@Req() request: SignedInRequest): Promise<SessionAnswer> {
    const signed = request.sessionToken && (await this.sessions.find(request.sessionToken));
    if (signed) return { signedIn: true, csrf: signed.csrf, ...(await this.setting.of(signed.actor)) };
    const exists = await this.organisation.exists();
    return {
      signedIn: false,
      organisationExists: exists,
      demoPeople: exists && this.config.demo ? await this.demoPeople() : [],
    };
  }

  @Public()
  @UseGuards(ThrottlerGuard)
  @Post()
  @HttpCode(201)
  async signIn(@Body() body: unknown, @Res({ passthrough: true }) response: Response): Promise<SignedIn> {
    const { value, faults } = checkAgainst(credentials, body);
    if (!value) throw invalidInput(faults);
    const session = await this.sessions.signIn(value.email, value.password);
    if (!session) throw new Problem('wrong-credentials', 'Mail address and password do not belong together.');
    giveCookie(response, session);
    const signed = await this.sessions.find(session.token);
    if (!signed) throw new Problem('wrong-credentials', 'This person can no longer sign in.');
    return { signedIn: true, csrf: signed.csrf, ...(await this.setting.of(signed.actor)) };
  }

  @Delete()
  @HttpCode(204)
  async signOut(
    @Req() request: SignedInRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    if (request.sessionToken) await this.sessions.end(request.sessionToken);
    response.append('Set-Cookie', `${COOKIE}=; Path=/; HttpOnly; SameSite=Lax; Max-Age=0`);
  }

  private async demoPeople(): Promise<SignedOut['demoPeople']> {
    const people = await this.organisation.people();
    return people.map(({ name, email, role, jobTitle }) => ({ name, email, role, jobTitle }));
  }
}
