import { useQuery } from '@tanstack/react-query';
import {
  ask,
  askedInWords,
  designOf,
  isCustomisable,
  Meanings,
  objectType,
  readTyped,
  shownAsked,
  wordRulesOf,
  type Asked,
  type Question,
  type Reading,
  type Vocabulary,
  type WordRules,
} from '@zawn/core';
import { useMemo } from 'react';
import { figures, savedViews } from '../../platform/api/queries';
import { counted } from '../../platform/frame/format';
import { useSettled } from '../../platform/frame/use-settled';
import { useSession } from '../../platform/sessions/session';
import { DESIGN } from '../questions/list-address';
import { useWording } from '../questions/use-wording';

/** What words mean here: fields, choices, people, teams, stages, lists and views by their names. */
export function useMeanings(): Meanings {
  const { catalogue, today, organisation, people, teams, pipelines, stagesOf } = useSession();
  const { data: saved } = useQuery(savedViews);
  return useMemo(() => {
    const vocabulary: Vocabulary = {
      catalogue,
      today,
      calendar: organisation,
      currency: organisation.currency,
      people,
      teams,
      pipelines,
      stages: pipelines.flatMap(({ id }) => stagesOf(id)),
      lists: saved?.lists ?? [],
      views: (saved?.views ?? []).flatMap((view) => {
        const question = designOf(view)?.question;
        return question ? [{ id: view.id, name: view.name, object: view.object, question }] : [];
      }),
      rules: wordRulesOf(organisation),
    };
    return new Meanings(vocabulary);
  }, [catalogue, today, organisation, people, teams, pipelines, stagesOf, saved]);
}

/** Reads a text, by other rules than the organisation’s where one chose the other reading. */
export function readWith(text: string, meanings: Meanings, rules: Partial<WordRules> = {}): Reading {
  const { vocabulary } = meanings;
  if (Object.keys(rules).length === 0) return readTyped(text, vocabulary, meanings);
  return readTyped(text, { ...vocabulary, rules: { ...vocabulary.rules, ...rules } });
}

/** The address of the page that shows what was asked. */
export function askedAddress(asked: Asked, catalogue: Vocabulary['catalogue']): string {
  const shown = shownAsked(asked, catalogue);
  const { object } = asked.question;
  const path = 'view' in shown && isCustomisable(object) ? objectType(object).path : 'reports/new';
  const design = 'view' in shown ? shown.view : shown.report;
  return `/${path}?${new URLSearchParams({ [DESIGN]: JSON.stringify(design) }).toString()}`;
}

const SETTLED_MS = 150;

/** What is asked in words, and how many records that is; the count comes later. */
export function useAsked(asked: Asked | undefined): { words: string; count: string } | undefined {
  const wording = useWording();
  const question = asked?.question;
  const counting = useMemo<Question | undefined>(() => {
    if (!question) return undefined;
    const { object, where, asOf } = question;
    return { ...ask(object, where), measures: [{ as: 'count' }], ...(asOf === undefined ? {} : { asOf }) };
  }, [question]);
  // What is still being typed is not counted.
  const settled = useSettled(counting, SETTLED_MS);
  const { data } = useQuery({ ...figures(settled ? [settled] : []), enabled: settled !== undefined });
  if (!asked) return undefined;
  const { label, plural } = objectType(asked.question.object);
  const count = settled === counting ? data?.[0]?.[0]?.figures[0] : undefined;
  return {
    // A list has no end of its own: the first ones stand on top of it.
    words: `${askedInWords(asked, wording)}${asked.limit === undefined ? '' : ' (all are listed, these on top)'}`,
    count: typeof count === 'number' ? counted(count, label.toLowerCase(), plural.toLowerCase()) : '',
  };
}
