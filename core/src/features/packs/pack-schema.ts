import Joi from 'joi';
import { type Catalogue } from '../../kernel/catalogue';
import { checkAgainst, type Checked, type Fault } from '../../kernel/validation/record-schema';
import { choiceSchema } from '../dashboards/dashboard-schema';
import { checkReport } from '../reports/report-schema';
import { isReadyThere, LONGEST_PAGE_NOTE, MOST_PAGES, type PackDesign, type PackPage } from './pack';

const id = Joi.number().integer().min(1);
const ready = Joi.string().max(60);
const common = {
  key: Joi.string()
    .pattern(/^[a-z][a-z0-9]{0,19}$/i)
    .required(),
  title: Joi.string().trim().min(1).max(80),
};
const report = { kind: Joi.valid('report').required(), report: id, ready, design: Joi.object().unknown() };

const page = Joi.object({ kind: Joi.string().required() })
  .unknown()
  .when('.kind', {
    switch: [
      {
        is: 'report',
        then: Joi.object({ ...common, ...report })
          .or('report', 'ready', 'design')
          .oxor('report', 'ready'),
      },
      {
        is: 'snapshot',
        then: Joi.object({ ...common, snapshot: id.required(), was: Joi.object(report) }),
      },
      {
        is: 'dashboard',
        then: Joi.object({ ...common, dashboard: id, ready }).xor('dashboard', 'ready'),
      },
      {
        is: 'note',
        then: Joi.object({ ...common, text: Joi.string().trim().min(1).max(LONGEST_PAGE_NOTE).required() }),
      },
    ],
    otherwise: Joi.object({ kind: Joi.forbidden() }).messages({
      'any.unknown': 'There is no such kind of page',
    }),
  });

const schema = Joi.object({
  version: Joi.number().valid(1).required(),
  pages: Joi.array()
    .items(page)
    .max(MOST_PAGES)
    .required()
    .messages({ 'array.max': `A meeting pack has at most ${MOST_PAGES} pages` }),
  choice: choiceSchema,
}).label('Meeting pack');

/** Checks a pack that came from outside: its shape, and what each of its pages asks. */
export function checkPack(value: unknown, catalogue: Catalogue): Checked<PackDesign> {
  const checked = checkAgainst<PackDesign>(schema, value);
  if (!checked.value) return checked;
  const { pages, ...rest } = checked.value;
  const faults: Fault[] = [];
  if (new Set(pages.map(({ key }) => key)).size < pages.length)
    faults.push({ field: 'pages', message: 'Two pages have the same key' });
  const known = pages.map((each, index): PackPage => {
    const field = `pages.${index}`;
    if (!isReadyThere(each)) faults.push({ field: `${field}.ready`, message: 'There is no such page' });
    if (each.kind !== 'report' || !each.design) return each;
    const { value: design, faults: found } = checkReport(each.design, catalogue);
    for (const fault of found)
      faults.push({ field: `${field}.design.${fault.field}`, message: fault.message });
    return design ? { ...each, design } : each;
  });
  return faults.length > 0 ? { value: undefined, faults } : { value: { ...rest, pages: known }, faults: [] };
}
