import { Controller, Delete, Get, HttpCode, Inject, Post, Req, Res } from '@nestjs/common';
import { parse } from 'cookie';
import { type Response } from 'express';
import Joi from 'joi';
import { type SessionAnswer, type SignedIn, type SignedOut } from '@zawn/core';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { CONFIG } from '../../platform/config/tokens';
import { sessionCookie, type Config } from '../../platform/config/config';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../organisation/organisation';
import { SessionData } from '../organisation/session-data';
import { BeforeSecondStep, Public, type SignedInRequest } from '../../platform/sessions/current-actor';
import { KnownBrowsers } from './known-browsers';
import { give, giveCookie, originOf } from './cookies';
import { SecondSteps } from './second-steps';
import { SignInTries } from './sign-in-tries';
import { Sessions, type Signed } from './sessions';

interface Credentials {
  email: string;
  password: string;
  /** The second step, where one is asked for. */
  code?: string;
}

const credentials = Joi.object<Credentials>({
  email: Joi.string().max(254).required().label('Email'),
  password: Joi.string().max(200).required().label('Password'),
  code: Joi.string().max(20).label('Code'),
});

/** The browser's mark that its person has signed in there before. */
const MARK = 'zawn_known';
const MARK_DAYS = 180;

@Controller('api/v1/session')
export class SessionController {
  constructor(
    private readonly sessions: Sessions,
    private readonly organisation: Organisation,
    private readonly data: SessionData,
    private readonly tries: SignInTries,
    private readonly browsers: KnownBrowsers,
    private readonly secondSteps: SecondSteps,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  /** Who is signed in and the setting they work in; before that, what the sign-in page needs. */
  @Public()
  @Get()
  async who(@Req() request: SignedInRequest): Promise<SessionAnswer> {
    const signed = request.sessionToken && (await this.sessions.find(request.sessionToken));
    if (signed) return this.signedIn(signed);
    const exists = await this.organisation.exists();
    return {
      signedIn: false,
      organisationExists: exists,
      demoPeople: exists && this.config.demo ? await this.demoPeople() : [],
    };
  }

  /** Signs a person in by their email address and password, and a code where they have a second step. */
  @Public()
  @Post()
  @HttpCode(201)
  async signIn(
    @CheckedBody(credentials) { email, password, code }: CheckedAs<typeof credentials>,
    @Req() request: SignedInRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<SignedIn> {
    const account = email.trim().toLowerCase();
    const browser = await this.browsers.read(account, parse(request.get('Cookie') ?? '')[MARK]);
    const address = request.ip ?? '';
    const done = await this.tries.admit({ account, address, ...(browser ? { browser: browser.id } : {}) });
    const { known, person } = await this.sessions.identify(email, password);
    const needsCode = person !== undefined && (await this.secondSteps.isOn(person));
    // Not counted as right: whoever has only the password would start guessing codes anew with each sign-in.
    if (needsCode && code === undefined)
      throw new Problem('second-step', 'Enter the six digits that your device shows, or a recovery code.');
    const how = needsCode ? await this.secondSteps.use(person, code ?? '') : 'password';
    done(person !== undefined && how !== undefined);
    const origin = originOf(request);
    if (person === undefined || how === undefined) {
      if (known !== undefined) await this.sessions.noteFailure(known, 'password', origin);
      throw person === undefined
        ? new Problem('wrong-credentials', 'The email address or the password is wrong.')
        : new Problem('second-step', 'This code is not right, or was used already. Enter the next one.');
    }
    const session = await this.sessions.begin(person, how, origin);
    giveCookie(response, this.config, session);
    if (!browser) {
      const seconds = MARK_DAYS * 86_400;
      give(response, this.config, MARK, await this.browsers.mark(account), seconds);
    }
    const signed = await this.sessions.find(session.token);
    if (!signed) throw new Problem('wrong-credentials', 'This person can no longer sign in.');
    return this.signedIn(signed);
  }

  /** Signs out. */
  @BeforeSecondStep()
  @Delete()
  @HttpCode(204)
  async signOut(
    @Req() request: SignedInRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    if (request.sessionToken) await this.sessions.end(request.sessionToken);
    response.append(
      'Set-Cookie',
      `${sessionCookie(this.config)}=; Path=/; HttpOnly; SameSite=Lax; Max-Age=0`,
    );
  }

  private async signedIn({ actor, csrf }: Signed): Promise<SignedIn> {
    const owesSecondStep = await this.secondSteps.isOwed(actor.personId);
    return { signedIn: true, csrf, owesSecondStep, ...(await this.data.of(actor)) };
  }

  private async demoPeople(): Promise<SignedOut['demoPeople']> {
    const people = await this.organisation.people();
    return people.map(({ name, email, sells, jobTitle }) => ({ name, email, sells, jobTitle }));
  }
}
