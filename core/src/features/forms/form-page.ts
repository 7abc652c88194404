import { offered, type Catalogue, type Field } from '../../kernel/catalogue';
import { countries } from '../../platform/normalise/country';
import { askedFields, askedLabel, type FormDesign, type FormField } from './form-design';
import { html, lines, Markup } from './html';
import { CONSENT, inputName, type FormFaults, type Typed } from './read-submission';

/** What a visitor sees of a form: to be filled in, sent, or closed for now. */
export type FormState =
  | {
      is: 'open';
      /** What was typed already, and what is wrong with it. */
      typed?: Typed;
      faults?: FormFaults;
      /** Something that concerns the whole. */
      notice?: string;
      /** Sent along without being seen. */
      hidden?: Readonly<Record<string, string>>;
    }
  | { is: 'thanks' }
  | { is: 'closed' };

/** A field no person sees, so that only a program fills it in. */
export const TRAP = 'form-url';

/** Where a published form's own files are. */
export const FORM_FILES = { style: '/f/form.css', script: '/f/form.js' };

type Asked = FormField & { field: Field };

const inputTypes: Partial<Record<Field['type'], string>> = {
  email: 'email',
  phone: 'tel',
  date: 'date',
};

const autocompletes: Record<string, string> = {
  name: 'name',
  organisation: 'organization',
  role: 'organization-title',
  email: 'email',
  phone: 'tel',
  web: 'url',
  city: 'address-level2',
  country: 'country',
};

const typedOf = (typed: Typed | undefined, name: string): readonly string[] => {
  const value = typed?.[name];
  return value === undefined ? [] : typeof value === 'string' ? [value] : value;
};

/** The field to type into, pick from or tick. */
function input({ key, field, required }: Asked, typed: readonly string[], described: string): Markup {
  const name = inputName(key);
  const base = html`id="${name}" name="${name}" ${required && html`required`}
  ${described && html`aria-describedby="${described}"`}
  ${described.includes('fault') && html`aria-invalid="true"`}`;
  const [value = ''] = typed;
  const pick = (options: readonly { key: string; label: string }[]) =>
    html`<select ${base}>
      <option value=""></option>
      ${options.map((option) => html`<option value="${option.key}" ${option.key === value && html`selected`}>${option.label}</option>`)}
    </select>`;
  switch (field.type) {
    case 'longText':
      return html`<textarea ${base} rows="5" maxlength="5000">${value}</textarea>`;
    case 'choice':
      return pick(offered(field.choices));
    case 'country':
      return pick(countries().map(({ code, name: label }) => ({ key: code, label })));
    case 'number':
    case 'percent':
    case 'money':
      return html`<input ${base} inputmode="decimal" maxlength="20" value="${value}" />`;
    default:
      return html`<input
        ${base}
        type="${inputTypes[field.type] ?? 'text'}"
        maxlength="${field.maxLength ?? 200}"
        ${autocompletes[key] && html`autocomplete="${autocompletes[key]}"`}
        value="${value}"
      />`;
  }
}

function question(asked: Asked, typed: readonly string[], fault: string | undefined): Markup {
  const { key, field, help, required } = asked;
  const name = inputName(key);
  const label = askedLabel(asked);
  const mark = !required && html` <span class="optional">optional</span>`;
  const described = [help && `${name}-help`, fault && `${name}-fault`].filter(Boolean).join(' ');
  const below = [
    help && html`<span class="help" id="${name}-help">${help}</span>`,
    fault && html`<span class="fault" id="${name}-fault">${fault}</span>`,
  ];
  if (field.type === 'yesNo')
    return html`<div class="question">
      <label class="tick"
        ><input
          type="checkbox"
          id="${name}"
          name="${name}"
          value="yes"
          ${typed.length > 0 && html`checked`}
        />
        ${label}</label
      >${below}
    </div>`;
  if (field.type === 'choices')
    return html`<fieldset class="question" id="${name}">
      <legend>${label}${mark}</legend>
      ${offered(field.choices).map((choice) => html`<label class="tick"><input type="checkbox" name="${name}" value="${choice.key}" ${typed.includes(choice.key) && html`checked`} /> ${choice.label}</label>`)}${below}
    </fieldset>`;
  return html`<div class="question">
    <label for="${name}">${label}${mark}</label>${input(asked, typed, described)}${below}
  </div>`;
}

function openForm(design: FormDesign, catalogue: Catalogue, state: FormState & { is: 'open' }): Markup {
  const { typed, faults = {}, notice, hidden = {} } = state;
  const asked = askedFields(catalogue, design);
  const wrong = [
    ...asked.filter(({ key }) => faults[key]).map(({ key }) => ({ to: inputName(key), text: faults[key] })),
    ...(faults[CONSENT] ? [{ to: CONSENT, text: faults[CONSENT] }] : []),
  ];
  const { consent } = design;
  return html`<h1>${design.heading}</h1>
    ${design.intro && html`<p class="intro">${lines(design.intro)}</p>`}
    ${notice && html`<p class="notice" role="alert">${notice}</p>`}
    ${
      wrong.length > 0 &&
      html`<div class="notice" role="alert">
        <b>Not sent yet:</b>
        <ul>
          ${wrong.map(({ to, text }) => html`<li><a href="#${to}">${text}</a></li>`)}
        </ul>
      </div>`
    }
    <form method="post" novalidate>
      ${asked.map((each) => question(each, typedOf(typed, inputName(each.key)), faults[each.key]))}
      <div class="trap" aria-hidden="true">
        <label for="${TRAP}">Leave this empty</label
        ><input id="${TRAP}" name="${TRAP}" tabindex="-1" autocomplete="off" />
      </div>
      ${
        consent &&
        html`<div class="question">
          <label class="tick"
            ><input
              type="checkbox"
              id="${CONSENT}"
              name="${CONSENT}"
              value="yes"
              ${typedOf(typed, CONSENT).length > 0 && html`checked`}
            />
            ${consent.text}</label
          >${faults[CONSENT] && html`<span class="fault">${faults[CONSENT]}</span>`}
        </div>`
      }
      ${Object.entries(hidden).map(([name, value]) => html`<input type="hidden" name="${name}" value="${value}" />`)}
      <button type="submit">${design.button}</button>
    </form>`;
}

/** The part of a form's page that a visitor reads: the same for the published page and its preview. */
export function formBody(design: FormDesign, catalogue: Catalogue, state: FormState): Markup {
  if (state.is === 'thanks')
    return html`<h1>${design.heading}</h1>
      <p class="thanks" role="status">${lines(design.thanks)}</p>`;
  if (state.is === 'closed')
    return html`<h1>${design.heading}</h1>
      <p class="intro" role="status">${lines(design.closed)}</p>`;
  return openForm(design, catalogue, state);
}

/** A whole page around some markup, light enough for any phone. */
export function formDocument(title: string, body: Markup): string {
  const { style, script } = FORM_FILES;
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="robots" content="noindex" />
        <title>${title}</title>
        <link rel="stylesheet" href="${style}" />
        <script src="${script}" defer></script>
      </head>
      <body>
        <main>${body}</main>
      </body>
    </html>`.text;
}

/** A form as one document with its style within, for a look at it before it is published. */
export function formPreview(design: FormDesign, catalogue: Catalogue, state: FormState): string {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <title>${design.heading}</title>
        <style>
          ${new Markup(formStyle)}
        </style>
      </head>
      <body>
        <main>${formBody(design, catalogue, state)}</main>
      </body>
    </html>`.text;
}

/** How forms look, wherever they stand. */
export const formStyle = `
:root { color-scheme: light; --water: #0f5c63; --ink: #1e2b2f; --second: #56666b; --line: #b9b3a4; --thrift: #a33a5f; }
@font-face { font-family: 'Public Sans'; src: url('/f/public-sans.woff2') format('woff2'); font-weight: 100 900; font-display: swap; }
* { box-sizing: border-box; }
body { margin: 0; color: var(--ink); background: #fff; font: 16px/1.5 'Public Sans', system-ui, sans-serif; }
main { max-width: 34rem; margin: 0 auto; padding: 24px 20px 32px; }
h1 { margin: 0 0 6px; font-size: 1.6rem; line-height: 1.2; font-weight: 680; letter-spacing: -0.01em; }
.intro { margin: 0 0 20px; color: var(--second); }
.question { margin: 0 0 16px; padding: 0; border: 0; }
.question > label, legend { display: block; padding: 0; margin-bottom: 4px; font-weight: 600; }
.question > .tick, .tick { display: flex; gap: 10px; align-items: flex-start; font-weight: 400; margin-bottom: 6px; }
.tick input { width: 20px; height: 20px; margin: 2px 0 0; accent-color: var(--water); flex: none; }
.optional { font-weight: 400; color: var(--second); font-size: 0.85em; }
input:not([type='checkbox']), select, textarea { display: block; width: 100%; min-height: 44px; padding: 9px 11px; border: 1px solid var(--line); border-radius: 4px; font: inherit; color: inherit; background: #fff; }
textarea { resize: vertical; }
[aria-invalid] { border-color: var(--thrift) !important; }
.help, .fault { display: block; margin-top: 4px; font-size: 0.88em; color: var(--second); }
.fault { color: var(--thrift); font-weight: 600; }
.notice { margin: 0 0 18px; padding: 12px 16px; border-left: 4px solid var(--thrift); background: #faf1f4; }
.notice ul { margin: 4px 0 0; padding-left: 18px; }
.notice a { color: inherit; }
button { min-height: 46px; padding: 10px 28px; border: 0; border-radius: 4px; background: var(--water); color: #fff; font: inherit; font-weight: 600; cursor: pointer; }
button:hover { background: #0b484e; }
:focus-visible { outline: 3px solid #d99a00; outline-offset: 2px; }
.thanks { margin: 12px 0; padding: 16px 18px; border-left: 4px solid var(--water); background: #eef4f3; font-size: 1.05rem; }
.trap { position: absolute; left: -9999px; height: 1px; overflow: hidden; }
`;
