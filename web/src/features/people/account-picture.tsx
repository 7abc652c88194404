import { useQuery } from '@tanstack/react-query';
import {
  ask,
  GROUP_DAYS,
  type AccountGroup,
  type AnyRecord,
  type Condition,
  type Question,
} from '@zawn/core';
import { Link } from 'react-router';
import { call } from '../../platform/api/client';
import { allRecords, figureAnswers, RECORDS } from '../../platform/api/queries';
import { counted, nearDate, number, shortMoney } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { listAddress } from '../../kernel/questions/list-address';
import { Unrated } from '../../kernel/questions/unrated';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';
import { DealsOverTime } from './deals-over-time';
import './account-picture.css';

const SHOWN = 6;

/** A sum that opens the deals behind it. */
function Sum({ label, question, tone }: { label: string; question: Question; tone: string }) {
  const { organisation } = useSession();
  const { data } = useQuery(
    figureAnswers([{ ...question, measures: [{ as: 'sum', of: 'value' }, { as: 'count' }] }]),
  );
  const [sum, count] = data?.[0].rows[0]?.figures ?? [];
  if (!count) return null;
  return (
    <div>
      <Link to={listAddress('deals', question)} className={`picture-sum picture-${tone}`}>
        <b>{shortMoney(sum ?? 0, organisation.currency)}</b>
        <span>
          {label}, {counted(count, 'deal')}
        </span>
      </Link>
      <Unrated parts={[[question, data?.[0].unrated]]} />
    </div>
  );
}

/** The people there, whom we talked to last first. */
function People({
  people,
  total,
  roles,
}: {
  people: readonly AnyRecord[];
  total: number;
  /** What those of other accounts are here. */
  roles: ReadonlyMap<number, string>;
}) {
  const { today, dayOf } = useSession();
  const { open } = useOpening();
  return (
    <div>
      <h3>People</h3>
      <ul>
        {people.slice(0, SHOWN).map((contact) => (
          <li key={contact.id}>
            <button type="button" className="link-button" onClick={() => open('contact', contact.id)}>
              {contact.name}
            </button>{' '}
            <span className="second">
              {[
                roles.get(contact.id) ?? contact.role,
                contact.lastTouchAt
                  ? `last touch ${nearDate(dayOf(contact.lastTouchAt), today)}`
                  : 'never touched',
              ]
                .filter(Boolean)
                .join(', ')}
            </span>
          </li>
        ))}
      </ul>
      {total > SHOWN && <p className="second">and {total - SHOWN} more</p>}
      {total === 0 && <p className="second">Nobody on file yet.</p>}
    </div>
  );
}

/** What was promised and is still to be done. */
function Promises({ promises, total }: { promises: readonly AnyRecord[]; total: number }) {
  const { today, person } = useSession();
  return (
    <div>
      <h3>Promised</h3>
      <ul>
        {promises.slice(0, SHOWN).map(({ id, name, dueOn, owner }) => (
          <li key={id}>
            <span className={String(dueOn) < today ? 'attention late' : 'second'}>
              {nearDate(String(dueOn), today)}
            </span>{' '}
            {name} <span className="second">{person(Number(owner))?.name}</span>
          </li>
        ))}
      </ul>
      {total > SHOWN && <p className="second">and {total - SHOWN} more</p>}
      {total === 0 && <p className="second">Nothing is open.</p>}
    </div>
  );
}

const outcome = (...value: string[]): Condition => ({ field: 'outcome', is: 'anyOf', value });

/** The accounts below this one, each with what was won, is open and was done at it and below it. */
function Group({ account }: { account: number }) {
  const { organisation, today, dayOf } = useSession();
  const { open } = useOpening();
  const { data } = useQuery({
    queryKey: [RECORDS, 'group', account],
    queryFn: () => call<AccountGroup>('GET', `/accounts/${account}/group`),
  });
  if (!data || data.accounts.length < 2) return null;
  const ofGroup: Condition = { field: 'account', is: 'anyOf', value: data.accounts.map(({ id }) => id) };
  const depth = (id: number): number => {
    const parent = data.accounts.find((each) => each.id === id)?.parent ?? null;
    return parent === null ? 0 : depth(parent) + 1;
  };
  return (
    <div className="picture-group">
      <h3>The group, rolled up</h3>
      <table>
        <thead>
          <tr>
            <td />
            <th scope="col">Won</th>
            <th scope="col">Open</th>
            <th scope="col">Done in {GROUP_DAYS} days</th>
            <th scope="col">Last touch</th>
          </tr>
        </thead>
        <tbody>
          {data.accounts.map(({ id, name, won, open: stillOpen, done, lastTouchAt }) => (
            <tr key={id}>
              <td style={{ paddingLeft: depth(id) * 16 }}>
                <button type="button" className="link-button" onClick={() => open('account', id)}>
                  {name}
                </button>
              </td>
              <td className="figure">{shortMoney(won, organisation.currency)}</td>
              <td className="figure">{shortMoney(stillOpen, organisation.currency)}</td>
              <td className="figure">{number(done)}</td>
              <td className="figure second">{lastTouchAt ? nearDate(dayOf(lastTouchAt), today) : 'never'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Unrated parts={[[ask('deal', ofGroup, outcome('won', 'open')), data.unrated]]} />
    </div>
  );
}

/** An account at a glance: what was won and is open, its deals over time, its people and what was promised. */
export default function AccountPicture({ record: account }: Pick<SheetProps, 'record'>) {
  const { today } = useSession();
  const of = { field: 'account', is: 'anyOf', value: [account.id] } as const;
  const { data: deals } = useQuery(
    allRecords({ ...ask('deal', of), sort: [{ field: 'closeOn', descending: true }] }),
  );
  // Those whose main account it is, and those who belong to it as well.
  const belongs: Condition = {
    join: 'any',
    of: [of, { related: 'membership.contact', where: of, is: 'atLeast', value: 1 }],
  };
  const { data: people } = useQuery(
    allRecords({ ...ask('contact', belongs), sort: [{ field: 'lastTouchAt', descending: true }] }),
  );
  const { data: members } = useQuery(allRecords(ask('membership', of)));
  const roles = new Map(
    members?.rows.flatMap(({ contact, role }) => (role ? [[Number(contact), String(role)]] : [])),
  );
  const { data: promises } = useQuery(
    allRecords({ ...ask('activity', of, { field: 'doneAt', is: 'isEmpty' }), sort: [{ field: 'dueOn' }] }),
  );
  return (
    <section className="picture" aria-label="The account at a glance">
      <div className="picture-sums">
        <Sum label="won so far" tone="won" question={ask('deal', of, outcome('won'))} />
        <Sum label="open" tone="open" question={ask('deal', of, outcome('open'))} />
        <Sum label="lost" tone="lost" question={ask('deal', of, outcome('lost'))} />
      </div>
      {deals && deals.rows.length > 0 && <DealsOverTime deals={deals.rows} today={today} />}
      <div className="picture-lists">
        {people && <People people={people.rows} total={people.total} roles={roles} />}
        {promises && <Promises promises={promises.rows} total={promises.total} />}
      </div>
      <Group account={account.id} />
    </section>
  );
}
