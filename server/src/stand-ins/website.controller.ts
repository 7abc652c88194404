import { Controller, Get, Inject, Res } from '@nestjs/common';
import { type Response } from 'express';
import { html } from '@zawn/core';
import { CONFIG } from '../platform/config/tokens';
import { type Config } from '../platform/config/config';
import { Problem } from '../platform/http/problem';
import { Public } from '../platform/sessions/current-actor';

const POLICY =
  "default-src 'none'; style-src 'self'; script-src 'self'; font-src 'self'; frame-src 'self'; base-uri 'none'";

/** A page of the demo company's own website, standing in for one: a form of Zawn's stands in it. */
@Controller('stand-ins/website')
export class WebsiteController {
  constructor(@Inject(CONFIG) private readonly config: Config) {}

  @Public()
  @Get()
  page(@Res() response: Response): void {
    this.onlyInDemo();
    response.type('html').set('Content-Security-Policy', POLICY).send(page);
  }

  @Public()
  @Get('website.css')
  style(@Res() response: Response): void {
    this.onlyInDemo();
    response.type('text/css').send(style);
  }

  private onlyInDemo(): void {
    if (!this.config.demo) throw new Problem('not-found', 'There is nothing at this address.');
  }
}

const works = [
  ['Harbours', 'Water level and waves at the quay, on the pilot’s tablet a minute later.'],
  ['Rivers and power', 'Levels above and below the weir, with an alarm before it matters.'],
  ['Uplands', 'Snow depth and wind on masts that stand through the winter.'],
];

const page = html`<!doctype html>
  <html lang="en">
    <head>
      <meta charset="utf-8" />
      <meta name="viewport" content="width=device-width, initial-scale=1" />
      <title>Brackwater Instruments: stations that measure water and weather</title>
      <link rel="stylesheet" href="/stand-ins/website/website.css" />
    </head>
    <body>
      <header>
        <b>Brackwater Instruments</b>
        <nav><a href="#works">What we build</a> <a href="#survey">Site survey</a></nav>
      </header>
      <section class="lead">
        <h1>Know the water before it knows you.</h1>
        <p>Water-level, wave and weather stations, looked after for as long as they stand.</p>
        <svg viewBox="0 0 1200 220" preserveAspectRatio="none" aria-hidden="true">
          <path d="M0 120 C200 60 320 180 560 120 S960 70 1200 130 V220 H0Z" fill="#2f6f8f" />
          <path d="M0 150 C240 110 420 200 660 150 S1000 120 1200 165 V220 H0Z" fill="#1d4d66" />
          <path
            d="M862 20 v130 M842 150 h40 M862 40 l46 18 M862 40 l-46 18"
            stroke="#13303f"
            stroke-width="6"
            fill="none"
          />
          <circle cx="862" cy="20" r="9" fill="#e2603a" />
        </svg>
      </section>
      <section id="works" class="works">
        ${works.map(
          ([name, text]) =>
            html`<article>
              <h2>${name}</h2>
              <p>${text}</p>
            </article>`,
        )}
      </section>
      <section id="survey" class="survey">
        <p>A survey costs nothing. An engineer looks at the site with you and says what would work there.</p>
        <script src="/f/embed.js" data-form="site-survey" data-title="Ask for a site survey"></script>
      </section>
      <footer>Brackwater Instruments does not exist. This page stands in for its website.</footer>
    </body>
  </html>`.text;

const style = `
@font-face { font-family: 'Public Sans'; src: url('/f/public-sans.woff2') format('woff2'); font-weight: 100 900; }
* { box-sizing: border-box; }
body { margin: 0; color: #13303f; background: #fdfcf9; font: 17px/1.6 'Public Sans', system-ui, sans-serif; }
header { display: flex; justify-content: space-between; padding: 18px 6vw; }
nav a { margin-left: 22px; color: inherit; }
.lead { position: relative; padding: 7vw 6vw 190px; background: #dcebf0; overflow: hidden; }
.lead h1 { position: relative; z-index: 1; margin: 0; max-width: 14em; font-size: clamp(34px, 5vw, 62px); line-height: 1.05; letter-spacing: -0.02em; }
.lead p { font-size: 20px; max-width: 30em; }
.lead svg { position: absolute; left: 0; bottom: 0; width: 100%; height: 190px; }
.works { display: grid; grid-template-columns: repeat(auto-fit, minmax(220px, 1fr)); gap: 34px; padding: 54px 6vw 30px; }
.works h2 { margin: 0; font-size: 20px; }
.works p { margin: 4px 0 0; }
.survey { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1.5fr); gap: 40px; align-items: start; padding: 30px 6vw 60px; }
.survey p { margin: 26px 0 0; font-size: 22px; line-height: 1.4; }
footer { padding: 24px 6vw; color: #56666b; border-top: 1px solid #d9d5ca; font-size: 14px; }
@media (max-width: 760px) { .survey { display: block; } nav { display: none; } }
`;
