import { inWords, type Question } from '@zawn/core';
import { date, money } from '../frame/format';
import { useSession } from '../sessions/session';

/** Says a question in words, with the names of people and stages. */
export function useWording(): (question: Question) => string {
  const { person, stage, pipelines, teams, organisation } = useSession();
  const nameOf = (object: string, id: number): string => {
    if (object === 'person') return person(id)?.name ?? 'someone who left';
    if (object === 'stage') return stage(id)?.name ?? 'a stage';
    if (object === 'pipeline') return pipelines.find((each) => each.id === id)?.name ?? 'a pipeline';
    if (object === 'team') return teams.find((each) => each.id === id)?.name ?? 'a team';
    return `${object} ${id}`;
  };
  return (question) =>
    inWords(question, { nameOf, day: date, money: (amount) => money(amount, organisation.currency) });
}
