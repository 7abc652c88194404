import { Body, Controller, Get, Param, Post, Query, Req, Res, UseGuards } from '@nestjs/common';
import { Throttle, ThrottlerGuard } from '@nestjs/throttler';
import { type Request, type Response } from 'express';
import {
  formBody,
  formDocument,
  formStyle,
  html,
  type FormState,
  type SubmissionOrigin,
  type Typed,
} from '@zawn/core';
import { Organisation } from '../../kernel/organisation/organisation';
import { Public } from '../../platform/sessions/current-actor';
import { Forms, type Form } from './forms';
import { originOf, originSent } from './origin';
import { PageKeys } from './page-keys';
import { embedScript, heightScript } from './scripts';

/** Forms that one address sends within a minute. */
const SENDING = { default: { ttl: 60_000, limit: 30 } };
const KEY = 'page-key';
const ORIGIN = 'page-origin';

/** A form stands alone or in any website's frame, runs its own script and sends to its own server. */
const POLICY =
  "default-src 'none'; style-src 'self'; script-src 'self'; font-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors *";
const FONT = require.resolve('@fontsource-variable/public-sans/files/public-sans-latin-wght-normal.woff2');

/** What published forms are served with, apart from the application: pages anyone can open. */
@Controller('f')
export class PublishedController {
  constructor(
    private readonly forms: Forms,
    private readonly keys: PageKeys,
    private readonly organisation: Organisation,
  ) {}

  @Public()
  @Get('form.css')
  style(@Res() response: Response): void {
    file(response, 'text/css').send(formStyle);
  }

  @Public()
  @Get('form.js')
  script(@Res() response: Response): void {
    file(response, 'text/javascript').send(heightScript);
  }

  /** What a website includes to show a form. */
  @Public()
  @Get('embed.js')
  embed(@Res() response: Response): void {
    file(response, 'text/javascript').send(embedScript);
  }

  @Public()
  @Get('public-sans.woff2')
  font(@Res() response: Response): void {
    // The preview of a form has no address of its own that could be asked from.
    file(response, 'font/woff2').set('Access-Control-Allow-Origin', '*').sendFile(FONT);
  }

  @Public()
  @Get(':slug')
  async page(
    @Param('slug') slug: string,
    @Query() query: Record<string, unknown>,
    @Req() request: Request,
    @Res() response: Response,
  ): Promise<void> {
    const form = await this.forms.at(slug);
    if (!form) return nothingHere(response);
    const texts = [query.page, query.ref ?? request.get('Referer')].map((each) =>
      typeof each === 'string' ? each : undefined,
    );
    const own = `http://form.invalid${request.originalUrl}`;
    const origin = originOf(own, texts[0], texts[1]);
    const state: FormState = form.active
      ? { is: 'open', hidden: await this.hidden(form, origin) }
      : { is: 'closed' };
    return this.show(response, form, state, 200);
  }

  @Public()
  @UseGuards(ThrottlerGuard)
  @Throttle(SENDING)
  @Post(':slug')
  async send(
    @Param('slug') slug: string,
    @Body() body: Record<string, unknown> | undefined,
    @Res() response: Response,
  ): Promise<void> {
    const form = await this.forms.at(slug);
    if (!form) return nothingHere(response);
    const typed = textsIn(body ?? {});
    const text = (name: string) => (typeof typed[name] === 'string' ? typed[name] : '');
    const origin = originSent(text(ORIGIN));
    const answer = await this.forms.submit(form, { typed, key: text(KEY), origin });
    if (answer.is !== 'again') return this.show(response, form, { is: answer.is }, 200);
    const { faults, notice, key } = answer;
    const hidden = await this.hidden(form, origin, key);
    return this.show(response, form, { is: 'open', typed, faults, notice, hidden }, 422);
  }

  private async hidden(
    { slug }: Form,
    origin: SubmissionOrigin,
    key?: string,
  ): Promise<Record<string, string>> {
    return { [KEY]: key ?? (await this.keys.make(slug)), [ORIGIN]: JSON.stringify(origin) };
  }

  private async show(response: Response, { design }: Form, state: FormState, status: number): Promise<void> {
    const body = formBody(design, await this.organisation.catalogue(), state);
    page(response, status).send(formDocument(design.heading, body));
  }
}

/** Only texts, whatever was sent. */
function textsIn(body: Record<string, unknown>): Typed {
  const isText = (value: unknown) => typeof value === 'string';
  const sent = Object.entries(body).filter(
    ([, value]) => isText(value) || (Array.isArray(value) && value.every(isText)),
  );
  return Object.fromEntries(sent) as Typed;
}

function page(response: Response, status: number): Response {
  response.removeHeader('X-Frame-Options');
  return response
    .status(status)
    .type('html')
    .set({ 'Content-Security-Policy': POLICY, 'Cache-Control': 'no-store' });
}

function nothingHere(response: Response): void {
  const body = html`<h1>There is no form here</h1>
    <p class="intro">The link may be old. Ask whoever gave it to you.</p>`;
  page(response, 404).send(formDocument('No form here', body));
}

function file(response: Response, type: string): Response {
  // Other websites include these.
  return response
    .type(type)
    .set({ 'Cache-Control': 'public, max-age=3600', 'Cross-Origin-Resource-Policy': 'cross-origin' });
}

/** A page for someone whose form could not even be read. */
export function formTrouble(response: Response, status: number, sentence: string): void {
  const body = html`<h1>Not sent</h1>
    <p class="intro">${sentence} Go back to find what you typed.</p>`;
  page(response, status).send(formDocument('Not sent', body));
}
