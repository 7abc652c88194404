import { choices } from '../../kernel/catalogue/choice-lists';
import { owner, source, email, goesTo, object } from '../../kernel/catalogue/shared-fields';

/** A message as it came in or went out. Everything in it is what it was: a feature writes it, nobody edits it. */
export const mail = object({
  label: 'Email',
  plural: 'Emails',
  path: 'mails',
  category: 'work',
  nameField: 'subject',
  fields: {
    subject: { label: 'Subject', type: 'text', required: true, maxLength: 500, set: 'feature' },
    direction: {
      label: 'Direction',
      type: 'choice',
      required: true,
      set: 'feature',
      choices: choices(['in', 'Received'], ['out', 'Sent']),
    },
    sender: { ...email, label: 'From', required: true, set: 'feature' },
    senderName: { label: 'Name of the sender', type: 'text', set: 'feature' },
    recipients: { label: 'To', type: 'text', maxLength: 2000, set: 'feature' },
    sentAt: { label: 'Sent', type: 'dateTime', required: true, set: 'feature' },
    body: { label: 'Text', type: 'longText', maxLength: 200_000, set: 'feature' },
    /** The files that came with it as JSON: name, type, size and the fingerprint they are kept under. */
    attachments: { label: 'Files', type: 'longText', maxLength: 100_000, set: 'feature' },
    /** What it is called in other messages, and what the first message of its thread is called. */
    messageId: { label: 'Message id', type: 'text', maxLength: 1000, required: true, set: 'feature' },
    thread: { label: 'Thread', type: 'text', maxLength: 1000, required: true, set: 'feature' },
    owner: { ...owner, set: 'feature' },
    lead: { label: 'Lead', type: 'link', to: 'lead', set: 'feature' },
    contact: { label: 'Contact', type: 'link', to: 'contact', set: 'feature' },
    account: { label: 'Account', type: 'link', to: 'account', set: 'feature' },
    deal: { label: 'Deal', type: 'link', to: 'deal', set: 'feature' },
  },
});

/** Something new about a person, seen in the signature of an email; it is offered and never written by itself. */
export const contactSuggestion = object({
  label: 'Contact suggestion',
  plural: 'Contact suggestions',
  path: 'contact-suggestions',
  category: 'work',
  goesWith: 'subject',
  nameField: 'value',
  fields: {
    lead: { label: 'Lead', type: 'link', to: 'lead', set: 'feature' },
    contact: { label: 'Contact', type: 'link', to: 'contact', set: 'feature' },
    field: { label: 'Field', type: 'text', required: true, maxLength: 60, set: 'feature' },
    value: { label: 'Value', type: 'text', required: true, set: 'feature' },
    mail: { label: 'Email', type: 'link', to: 'mail', set: 'feature' },
    state: {
      label: 'State',
      type: 'choice',
      required: true,
      set: 'feature',
      choices: choices(['open', 'Open'], ['taken', 'Taken'], ['left', 'Left as it is']),
    },
  },
});

export const captureAddress = object({
  label: 'Capture address',
  plural: 'Capture addresses',
  path: 'capture-addresses',
  category: 'setup',
  setUpBy: 'setUpCapture',
  isConfidential: true,
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    address: { label: 'Address', type: 'email', required: true, maxLength: 254 },
    ...goesTo,
    source: { ...source, label: 'Source of its leads' },
    active: { label: 'In use', type: 'yesNo', required: true },
  },
});
