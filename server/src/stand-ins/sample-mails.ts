import { type SendMailOptions } from 'nodemailer';

const TO = 'hello@brackwater.example';

/** Mails as they come in a week: somebody new, somebody who writes again, and what no person wrote. */
export const sampleMails: readonly SendMailOptions[] = [
  {
    from: 'Orla Penhallick <orla.penhallick@tidewell-pilots.example>',
    to: TO,
    subject: 'Wave heights at the bar',
    messageId: '<bar-1@tidewell-pilots.example>',
    text: 'Good morning,\n\nour pilots turn back at the bar more often than they need to, because nobody knows how high the waves are there. Could a buoy tell them?\n\nWe would decide this winter.\n\n-- \nOrla Penhallick\nPilot master\nTidewell Pilots\nPhone 01632 960 731',
  },
  {
    from: '"Brandvold, Eirik" <eirik@brandvold-lifts.example>',
    to: TO,
    subject: 'Snow depth at two lift heads',
    messageId: '<lifts-1@brandvold-lifts.example>',
    html: '<p>Hello,</p><p>we need <b>snow depth</b> at two lift heads before the season.</p><p>Eirik Brandvold, Lift manager<br>+47 2109 0042</p>',
    attachments: [{ filename: 'lift heads.txt', content: 'North head, 1,140 m\nWest head, 1,310 m\n' }],
  },
  {
    from: 'Orla Penhallick <orla.penhallick@tidewell-pilots.example>',
    to: TO,
    subject: 'Re: Wave heights at the bar',
    messageId: '<bar-2@tidewell-pilots.example>',
    inReplyTo: '<bar-1@tidewell-pilots.example>',
    references: '<bar-1@tidewell-pilots.example>',
    text: 'One more thing: the bar shifts. The buoy would have to move with it.\n\nOrla',
  },
  {
    from: 'Orla Penhallick <orla.penhallick@tidewell-pilots.example>',
    to: TO,
    subject: 'Out of office: Wave heights at the bar',
    messageId: '<bar-3@tidewell-pilots.example>',
    headers: { 'Auto-Submitted': 'auto-replied' },
    text: 'I am at sea until Thursday.',
  },
  {
    from: 'Harbour News <news@harbour-news.example>',
    to: TO,
    subject: 'This month in harbours',
    messageId: '<nov@harbour-news.example>',
    headers: { 'List-Id': '<news.harbour-news.example>', Precedence: 'bulk' },
    text: 'Dredging, dues and a new lighthouse.',
  },
];
