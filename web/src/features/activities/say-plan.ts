import { choiceLabel, fieldOf, offered, readPlanned } from '@zawn/core';
import { type Feature } from '../../kernel/shell/feature';
import { shortDate } from '../../platform/frame/format';

/** Reads `call Thea Thu 10:00` as something to be planned with whoever is called so. */
export const sayPlan: NonNullable<Feature['sayings']> = (
  text,
  { catalogue, today, calendar, me, policy },
) => {
  if (!policy.allows('activity', 'add')) return undefined;
  const field = fieldOf(catalogue, 'activity', 'kind');
  const types = offered(field?.choices).filter(({ touch }) => touch !== undefined);
  const said = readPlanned(text, types, today, calendar);
  if (!said) return undefined;
  const { kind, about, when, whenWords } = said;
  const name = choiceLabel(field, kind);
  return {
    about,
    objects: ['contact', 'lead', 'account', 'deal'],
    kind: 'Plan',
    label: (who) =>
      `${name} with ${who}, ${when ? shortDate(when.dueOn) : ''}${when?.dueAt ? ` ${when.dueAt}` : ''}`,
    ...(when ? {} : { unclear: `“${whenWords}” is no day or time` }),
    write: ({ object, id }) => ({
      method: 'POST',
      path: '/activities',
      body: { name, kind, ...when, owner: me.id, [object]: id },
    }),
  };
};
