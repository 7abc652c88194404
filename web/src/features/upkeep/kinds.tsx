import { useQuery } from '@tanstack/react-query';
import {
  allOf,
  ask,
  countsIn,
  objectType,
  ownersOf,
  upkeepKindsOf,
  upkeepQuestion,
  upkeepQuestions,
  worstFirst,
  type Policy,
  type UpkeepCheck,
  type UpkeepCounts,
  type UpkeepKind,
} from '@zawn/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { allRecords, figureAnswers } from '../../platform/api/queries';
import { number } from '../../platform/frame/format';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import './upkeep.css';

/** The list of the records that something is wrong with, the fields to be put right beside their names. */
export function addressOf(
  { of, where, fields }: UpkeepKind,
  policy: Policy,
  owners?: readonly number[],
): string {
  const question = upkeepQuestion(of, where);
  const { path, nameField } = objectType(question.object);
  const whose =
    owners === undefined
      ? ownersOf(policy, question.object)
      : ({ field: 'owner', is: 'anyOf', value: [...owners] } as const);
  return listAddress(path, {
    ...question,
    where: allOf(question.where, whose),
    columns: [nameField, ...fields, ...(fields.includes('owner') ? [] : ['owner'])],
  });
}

/** What is wrong, worst first, each with the records it is true of. */
export function Kinds({ counts, kinds }: { counts: UpkeepCounts; kinds: readonly UpkeepKind[] }) {
  const { policy } = useSession();
  const most = Math.max(1, ...kinds.map(({ key }) => counts.wrong[key] ?? 0));
  return (
    <ol className="upkeep-kinds">
      {worstFirst(counts, kinds).map((kind) => {
        const wrong = counts.wrong[kind.key] ?? 0;
        return (
          <li key={kind.key}>
            <Link to={addressOf(kind, policy)}>
              <b>{number(wrong)}</b>
              <span className="upkeep-label">{kind.label}</span>
              <span className="upkeep-bar" style={{ ['--share' as string]: `${(100 * wrong) / most}%` }} />
              <span className="second">of {number(counts.bases[kind.of])}</span>
            </Link>
          </li>
        );
      })}
    </ol>
  );
}

/** Everything that is counted, for the people it is owned by. */
function useCounts(kinds: readonly UpkeepKind[] | undefined) {
  const { policy } = useSession();
  const asked = useMemo(() => upkeepQuestions(kinds ?? []), [kinds]);
  const questions = useMemo(
    () =>
      // What people look after is what they, or their teams, own: not whatever else they reach.
      asked.map(({ question }) => {
        const where = allOf(question.where, ownersOf(policy, question.object));
        return where ? { ...question, where } : question;
      }),
    [asked, policy],
  );
  const { data, error, refetch } = useQuery({ ...figureAnswers(questions), enabled: kinds !== undefined });
  const counts = useMemo(() => (kinds && data ? countsIn(asked, data) : undefined), [kinds, asked, data]);
  return { counts, error, refetch: () => void refetch() };
}

/** What is looked for, and how many records it is true of. */
export function useUpkeep() {
  const { data: checks } = useQuery(allRecords(ask('upkeepCheck')));
  const said = checks?.rows as (UpkeepCheck & { version: number })[] | undefined;
  const kinds = useMemo(() => said && upkeepKindsOf(said), [said]);
  return { said, kinds, ...useCounts(kinds) };
}
