import { addDays, newForm, type Day, type FormDesign } from '@zawn/core';
import { type Book } from './book';
import { type Random } from './random';

const SURVEY: FormDesign = {
  heading: 'Ask for a site survey',
  intro:
    'Tell us where you measure, or would like to. An engineer who knows your kind of site calls back within a working day.',
  fields: [
    { key: 'name', label: 'Your name', required: true },
    { key: 'organisation', label: 'Organisation' },
    { key: 'email', required: true },
    { key: 'phone', help: 'If you would rather be called.' },
    { key: 'country' },
    { key: 'interest', label: 'What would you like to measure?', help: 'Water level, waves, wind, snow …' },
    { key: 'timeFrame', label: 'When would you need it?' },
    { key: 'description', label: 'Anything else we should know?' },
  ],
  consent: {
    text: 'Brackwater Instruments may keep these details to answer me, and calls or writes to me about this survey.',
    required: true,
  },
  button: 'Ask for a survey',
  thanks: 'Thank you. An engineer from the team for your kind of site will call you within a working day.',
  closed: newForm.closed,
  sets: { source: 'website', tags: ['survey'] },
};

const FAIR: FormDesign = {
  ...newForm,
  heading: 'We met at the harbour fair',
  intro: 'Leave your details and we send you the drawings you asked for.',
  closed: 'The fair is over. Call us, or ask for a site survey instead.',
  sets: { source: 'fair', campaign: 'Autumn harbour fair' },
};

const PAGES = ['https://www.brackwater.example/stations', 'https://www.brackwater.example/harbours'];
const CAMPAIGNS = ['spring-gauges', 'tide-letter', ''];

/** The ways in from outside: the website's form with what came through it lately, one that is over, two addresses. */
export function openWaysIn(book: Book, random: Random, today: Day): void {
  const founding = { at: `${addDays(today, -400)}T08:00:00.000Z`, person: null };
  const form = (name: string, slug: string, design: FormDesign, active: boolean) =>
    book.create('form', founding, {
      name,
      slug,
      design: JSON.stringify(design),
      to: 'rules',
      person: null,
      active,
    });
  const survey = form('Site survey', 'site-survey', SURVEY, true);
  form('Harbour fair', 'harbour-fair', FAIR, false);
  for (const [name, address, source] of [
    ['Enquiries', 'hello@brackwater.example', 'website'],
    ['Tenders', 'tenders@brackwater.example', 'tender'],
  ])
    book.create('captureAddress', founding, {
      name,
      address,
      to: 'rules',
      person: null,
      source,
      active: true,
    });
  sendIn(book, random, survey, addDays(today, -120));
}

/** What leads from the website of the last months sent, as they sent it. */
function sendIn(book: Book, random: Random, form: number, since: Day): void {
  const sent = book
    .rows('lead')
    .filter(({ source, createdAt }) => source === 'website' && String(createdAt) >= since)
    .sort((a, b) => (String(a.createdAt) < String(b.createdAt) ? -1 : 1));
  for (const lead of sent) {
    const campaign = random.pick(CAMPAIGNS);
    const { name, organisation, email, phone, country, interest } = lead;
    const typed = { name, organisation, email, ...(phone ? { phone } : {}), country, interest };
    book.add('submission', {
      form,
      at: lead.createdAt,
      state: 'taken',
      why: null,
      typed: JSON.stringify(typed),
      origin: JSON.stringify({
        page: random.pick(PAGES),
        campaign: campaign ? { utm_campaign: campaign, utm_medium: 'mail' } : {},
      }),
      consent: SURVEY.consent?.text ?? null,
      lead: lead.id,
      key: `demo-${String(lead.id)}`,
    });
  }
}
