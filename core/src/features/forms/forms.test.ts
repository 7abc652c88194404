import fc from 'fast-check';
import {
  askedFields,
  CONSENT,
  formBody,
  formDocument,
  formPreview,
  inputName,
  isAskable,
  newForm,
  readSubmission,
  TRAP,
  type FormDesign,
  type FormState,
  type Typed,
} from '.';
import { builtIn, catalogueWith, fieldOf, type CustomField, type Field } from '../../kernel/catalogue';
import { ownField } from '../../kernel/catalogue/testing';
import { checkForm } from './form-schema';

const place = { currency: 'GBP', timeZone: 'Europe/London' };

const own = (values: Partial<CustomField>) => ownField({ object: 'lead', ...values });

const catalogue = catalogueWith({
  customFields: [
    own({ key: 'x_depth', label: 'Depth', type: 'number' }),
    own({ id: 2, key: 'x_tidal', label: 'Tidal', type: 'yesNo' }),
    own({
      id: 3,
      key: 'x_terrain',
      label: 'Terrain',
      type: 'choices',
      choices: '[["river","River"],["lake","Lake"]]',
    }),
    own({ id: 4, key: 'x_visitOn', label: 'Visit on', type: 'date' }),
  ],
  choiceLists: [],
});

const design: FormDesign = {
  ...newForm,
  fields: [
    { key: 'name', label: 'Your name', required: true },
    { key: 'email', required: true, help: 'So that we can answer' },
    { key: 'country' },
    { key: 'timeFrame' },
    { key: 'budget' },
    { key: 'description' },
    { key: 'x_depth' },
    { key: 'x_tidal' },
    { key: 'x_terrain' },
    { key: 'x_visitOn' },
  ],
};

const sent = (values: Record<string, string | string[]>): Typed =>
  Object.fromEntries(
    Object.entries(values).map(([key, value]) => [key === CONSENT ? key : inputName(key), value]),
  );
const read = (values: Record<string, string | string[]>) =>
  readSubmission(design, catalogue, sent(values), place);
const page = (state: FormState, more: Partial<FormDesign> = {}) =>
  formBody({ ...design, ...more }, catalogue, state).text;

const complete = { name: 'Runa Seagrave', email: 'runa@seagrave.example', [CONSENT]: 'yes' };

describe('what a form can ask', () => {
  it('is what visitors know: nothing of ours, nothing that a feature sets', () => {
    const askable = (key: string) => isAskable(key, fieldOf(builtIn, 'lead', key) as Field);
    expect(['name', 'email', 'budget', 'timeFrame', 'interest'].map(askable)).not.toContain(false);
    expect(['owner', 'status', 'source', 'score', 'externalId', 'contact'].map(askable)).not.toContain(true);
  });

  it('leaves out fields that are gone', () => {
    const gone = { ...design, fields: [...design.fields, { key: 'x_retired' }] };
    expect(askedFields(catalogue, gone)).toHaveLength(design.fields.length);
  });

  it.each([
    ['the form to begin with', newForm, undefined],
    ['one that asks for everything here', design, undefined],
    ['no fields', { ...design, fields: [] }, 'fields'],
    [
      'a field twice',
      { ...design, fields: [...design.fields, { key: 'name', required: true }] },
      'fields.10',
    ],
    ['a name that may stay empty', { ...design, fields: [{ key: 'name' }] }, 'fields'],
    ['a source nobody has', { ...design, sets: { source: 'moon' } }, 'sets'],
    ['a heading longer than a page', { ...design, heading: 'x'.repeat(121) }, 'heading'],
    ['something that is not part of a form', { ...design, script: 'x' }, 'script'],
  ])('is checked: %s', (_, candidate, place) => {
    const { value, faults } = checkForm(candidate, catalogue);
    expect(faults.map(({ field }) => field)).toEqual(place === undefined ? [] : [place]);
    expect(value === undefined).toBe(place !== undefined);
  });
});

describe('a form to fill in', () => {
  it('has a labelled input for every question, and says which may stay empty', () => {
    const text = page({ is: 'open' });
    for (const { key } of design.fields) expect(text).toContain(`name="${inputName(key)}"`);
    expect(text).toMatch(/<label for="field-name">Your name<\/label>/);
    expect(text).toMatch(
      /<label for="field-country">Country\s*<span class="optional">optional<\/span><\/label>/,
    );
    expect(text).toContain('<span class="help" id="field-email-help">So that we can answer</span>');
    expect(text).toContain('aria-describedby="field-email-help"');
    expect(text).toContain(design.consent?.text);
  });

  it('keeps a field that no person sees, out of the way of the keyboard and of those who listen', () => {
    expect(page({ is: 'open' })).toMatch(
      new RegExp(`aria-hidden="true">[\\s\\S]*name="${TRAP}" tabindex="-1"`),
    );
  });

  it('comes back with what was typed, ticked and chosen, and with every fault beside its question', () => {
    const typed = sent({
      ...complete,
      email: 'at home',
      timeFrame: 'month',
      x_terrain: ['lake'],
      x_tidal: 'yes',
    });
    const text = page({ is: 'open', typed, faults: { email: 'Email is not an email address' } });
    expect(text).toContain('value="Runa Seagrave"');
    expect(text).toMatch(/value="month" selected/);
    expect(text).toMatch(/name="field-x_terrain" value="lake" checked/);
    expect(text).not.toMatch(/name="field-x_terrain" value="river" checked/);
    expect(text).toMatch(/name="field-x_tidal"\s+value="yes"\s+checked/);
    expect(text).toContain('<a href="#field-email">Email is not an email address</a>');
    expect(text).toContain('aria-describedby="field-email-help field-email-fault"');
    expect(text.match(/aria-invalid/g)).toHaveLength(1);
  });

  it('says thanks, or that it is closed, and asks for nothing then', () => {
    expect(page({ is: 'thanks' }, { thanks: 'One\nTwo' })).toMatch(/role="status">One<br \/>Two/);
    expect(page({ is: 'closed' })).toContain(design.closed);
    for (const is of ['thanks', 'closed'] as const) expect(page({ is })).not.toContain('<form');
  });

  it('is one document as a preview, style and all, and loads nothing of the application as a page', () => {
    expect(formPreview(design, catalogue, { is: 'open' })).not.toMatch(/<script|<link/);
    const whole = formDocument(design.heading, formBody(design, catalogue, { is: 'open' }));
    expect(whole.match(/<script/g)).toHaveLength(1);
    expect(whole).toContain('<script src="/f/form.js" defer></script>');
  });

  it('never lets a word become markup, whoever wrote it', () => {
    const render = (word: string) =>
      page(
        {
          is: 'open',
          typed: sent({ name: word, description: word }),
          faults: { name: word },
          notice: word,
          hidden: { key: word },
        },
        {
          heading: word,
          button: word,
          consent: { text: word },
          fields: [{ key: 'name', label: word, help: word }, { key: 'description' }],
        },
      );
    const signs = (text: string) => text.replace(/[^<>"]/g, '');
    const plain = signs(render('x'));
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ minLength: 1 }),
          fc.constant('"><script>alert(1)</script>'),
          fc.constant("' onfocus='x"),
        ),
        (word) => {
          expect(signs(render(word))).toBe(plain);
        },
      ),
    );
  });
});

describe('what was sent in', () => {
  it('becomes values of a lead, read as the fields they are', () => {
    const { values, faults, consent } = read({
      ...complete,
      country: 'SE',
      budget: '£12,500',
      x_depth: '2,5',
      x_tidal: 'yes',
      x_terrain: ['lake', 'river'],
      x_visitOn: '2026-12-01',
      description: '  Two lines\nof it  ',
    });
    expect(faults).toEqual({});
    expect(values).toEqual({
      name: 'Runa Seagrave',
      email: 'runa@seagrave.example',
      country: 'SE',
      budget: 1_250_000,
      currency: 'GBP',
      x_depth: 2.5,
      x_tidal: true,
      x_terrain: ['lake', 'river'],
      x_visitOn: '2026-12-01',
      description: 'Two lines\nof it',
    });
    expect(consent).toBe(design.consent?.text);
  });

  it('says what is missing in the words of the form, and what cannot be read without a word of files', () => {
    const { faults } = read({ email: '', x_visitOn: 'soon', x_depth: 'deep', timeFrame: 'never' });
    expect(faults).toMatchObject({
      name: 'Your name is needed',
      email: 'Email is needed',
      x_visitOn: '“soon” is not a date',
      x_depth: '“deep” is not a number',
      [CONSENT]: 'Please agree to this to send the form',
    });
    expect(faults.timeFrame).toContain('“never” is not one of');
    expect(Object.values(faults).join(' ')).not.toContain('file');
  });

  it('takes nothing that was not asked for', () => {
    const { values } = read({ ...complete, owner: '7', status: 'qualified', x_other: 'x' });
    expect(Object.keys(values).sort()).toEqual(['email', 'name', 'x_tidal']);
  });

  it('can be sent without agreeing where that is free, and keeps that nobody agreed', () => {
    const free = { ...design, consent: { text: 'Write to me' } };
    const { [CONSENT]: _, ...unticked } = complete;
    const answer = readSubmission(free, catalogue, sent(unticked), place);
    expect([answer.faults, answer.consent]).toEqual([{}, null]);
  });

  it('is read without failing, whatever is sent', () => {
    const texts = fc.oneof(fc.string(), fc.array(fc.string(), { maxLength: 3 }));
    const keys = fc.constantFrom(...design.fields.map(({ key }) => inputName(key)), CONSENT, TRAP);
    fc.assert(
      fc.property(fc.dictionary(keys, texts), (typed) => {
        const { values, faults } = readSubmission(design, catalogue, typed, place);
        for (const key of Object.keys(faults)) expect(values).not.toHaveProperty(key);
      }),
    );
  });
});
