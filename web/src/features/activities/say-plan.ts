import { choiceLabel, fieldOf, offered, readPlanned } from '@zawn/core';
import { type ReadSaying } from '../../kernel/shell/feature';
import { shortDate } from '../../platform/frame/format';
import { taskBegins } from './task-defaults';

/** Reads `call Thea Thu 10:00` as something to be planned with whoever is called so; the rest is as one's new tasks begin. */
export const sayPlan: ReadSaying = (text, session) => {
  const { catalogue, today, calendar, me, policy, person, preferences } = session;
  if (!policy.allows('activity', 'add')) return undefined;
  const field = fieldOf(catalogue, 'activity', 'kind');
  const types = offered(field?.choices).filter(({ touch }) => touch !== undefined);
  const said = readPlanned(text, types, today, calendar);
  if (!said) return undefined;
  const { kind, about, when, whenWords } = said;
  const name = choiceLabel(field, kind);
  const begins = taskBegins(session, preferences);
  const priority =
    begins.priority && choiceLabel(fieldOf(catalogue, 'activity', 'priority'), String(begins.priority));
  const rest = [
    ...(begins.owner === me.id ? [] : [`for ${person(Number(begins.owner))?.name}`]),
    ...(priority ? [`${priority.toLowerCase()} priority`] : []),
  ];
  return {
    about,
    objects: ['contact', 'lead', 'account', 'deal'],
    kind: 'Plan',
    label: (who) =>
      [
        `${name} with ${who}`,
        `${when ? shortDate(when.dueOn) : ''}${when?.dueAt ? ` ${when.dueAt}` : ''}`,
        ...rest,
      ].join(', '),
    ...(when ? {} : { unclear: `“${whenWords}” is no day or time` }),
    write: ({ object, id }) => ({
      method: 'POST',
      path: '/activities',
      body: { name, kind, ...begins, ...when, [object]: id },
    }),
  };
};
