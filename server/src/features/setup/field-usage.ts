import { IsNull, type EntityManager } from 'typeorm';
import {
  ask,
  asksForField,
  designOf,
  type Catalogue,
  type Condition,
  type ObjectKey,
  type RecordOf,
  type View,
} from '@zawn/core';

type OwnField = Pick<RecordOf<'customField'>, 'object' | 'key'>;
type Kept<T> = T & { id: number };

/** A rule about leads that asks for a field. */
export interface AskingRule {
  object: 'assignmentRule' | 'scoreRule';
  record: Kept<RecordOf<'assignmentRule'>> | Kept<RecordOf<'scoreRule'>>;
}

const kept = { deletedAt: IsNull() } as object;

/** The rules in use that could no longer be asked if one of the organisation's own fields were gone. */
export async function rulesAsking(
  manager: EntityManager,
  catalogue: Catalogue,
  { object, key }: OwnField,
): Promise<AskingRule[]> {
  const of = { object: object as ObjectKey, key };
  const asks = (condition: string | null) =>
    condition !== null && asksForField(catalogue, ask('lead', JSON.parse(condition) as Condition), of);
  const assignment = await manager.findBy<Kept<RecordOf<'assignmentRule'>>>('assignmentRule', kept);
  const score = await manager.findBy<Kept<RecordOf<'scoreRule'>>>('scoreRule', kept);
  return [
    ...assignment
      .filter(({ active, condition }) => active && asks(condition))
      .map((record): AskingRule => ({ object: 'assignmentRule', record })),
    ...score
      .filter(({ active, condition }) => active && asks(condition))
      .map((record): AskingRule => ({ object: 'scoreRule', record })),
  ];
}

/** The views that show one of the organisation's own fields or ask for it. */
export async function viewsAsking(
  manager: EntityManager,
  catalogue: Catalogue,
  { object, key }: OwnField,
): Promise<Kept<View>[]> {
  const of = { object: object as ObjectKey, key };
  const views = await manager.findBy<Kept<View>>('view', kept);
  return views.filter((view) => {
    const question = designOf(view)?.question;
    return question !== undefined && asksForField(catalogue, question, of);
  });
}

/** The web forms, short forms and conversions that fill in one of the organisation's own fields, by name. */
export async function formsAsking(manager: EntityManager, { object, key }: OwnField): Promise<string[]> {
  const isNamed = (text: string | null) => text !== null && text.includes(JSON.stringify(key));
  const forms = await manager.findBy<Kept<RecordOf<'form'>>>('form', kept);
  const short = await manager.findBy<Kept<RecordOf<'quickAdd'>>>('quickAdd', kept);
  const carried = await manager.findBy<Kept<RecordOf<'carryOver'>>>('carryOver', kept);
  const isLead = object === 'lead';
  const isCarried = carried.some((each) =>
    isLead ? each.field === key : each[object as 'contact' | 'account' | 'deal'] === key,
  );
  return [
    ...forms.filter(({ design }) => isLead && isNamed(design)).map(({ name }) => `the form “${name}”`),
    ...short.filter((each) => each.object === object && isNamed(each.fields)).map(() => 'the short form'),
    ...(isCarried ? ['the conversion of leads'] : []),
  ];
}
