import { useMutation, useQuery } from '@tanstack/react-query';
import {
  ask,
  objectType,
  type Condition,
  type Job,
  type RecordOf,
  type TerritoryKind,
  type TerritoryPreview,
} from '@zawn/core';
import { Button, Segmented, Select, Switch } from 'antd';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { Allowed } from '../../platform/sessions/allowed';
import { call } from '../../platform/api/client';
import { refusedWords, useFollowJob } from '../../platform/api/follow-job';
import { allRecords, RECORDS } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { counted, number } from '../../platform/frame/format';
import { moved, MoveButtons } from '../../platform/frame/move-buttons';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { Asleep } from '../../kernel/sentence/asleep';
import { KeptCondition } from '../../kernel/sentence/kept-condition';
import { KeptName } from '../../platform/frame/kept-field';
import './assignment.css';

type Territory = RecordOf<'territory'>;

const kinds: { value: TerritoryKind; label: string }[] = [
  { value: 'account', label: 'Accounts' },
  { value: 'lead', label: 'Leads' },
];

/** What putting everything into its territory would come to, and doing it. */
function Apply({ kind, territories }: { kind: TerritoryKind; territories: readonly Territory[] }) {
  const { announce, complain } = useNotices();
  const follow = useFollowJob();
  const { plural } = objectType(kind);
  const { data, error } = useQuery({
    queryKey: [RECORDS, 'territories', kind],
    queryFn: () => call<TerritoryPreview>('POST', '/territory-work/preview', { body: { object: kind } }),
  });
  const apply = useMutation({
    mutationFn: () => call<Job>('POST', '/territory-work', { body: { object: kind } }),
    onSuccess: (job) =>
      void follow(job)
        .then((ended) => announce({ label: `${ended.label}.${refusedWords(ended)}`, unit: ended.unit ?? 0 }))
        .catch(complain),
    onError: complain,
  });
  const nameOf = (id: number | null) =>
    id === null ? 'none' : (territories.find((each) => each.id === id)?.name ?? 'one that is gone');
  const moves = data?.moves ?? [];
  const total = moves.reduce((sum, { count }) => sum + count, 0);
  return (
    <aside className="trial" aria-label="Put everything in its place">
      <h2>Put into their territories</h2>
      <p className="second">New {plural.toLowerCase()} find theirs by themselves, however they come.</p>
      {error ? (
        <p className="attention">{error.message}</p>
      ) : !data ? (
        <Skeleton rows={4} />
      ) : (
        <>
          <ul className="territory-held">
            {data.held.map(({ territory, count }) => (
              <li key={territory ?? 0}>
                <span className="clip">{territory === null ? 'In none' : nameOf(territory)}</span>
                <b className="figure">{number(count)}</b>
              </li>
            ))}
          </ul>
          {moves.map(({ from, to, count }) => (
            <p key={`${from ?? 0} ${to ?? 0}`}>
              {number(count)} from {nameOf(from)} to {nameOf(to)}
            </p>
          ))}
          <Button
            type="primary"
            disabled={total === 0}
            loading={apply.isPending}
            onClick={() => apply.mutate()}
          >
            {total === 0
              ? 'Everything is in its place'
              : `Move ${counted(total, objectType(kind).label.toLowerCase(), plural.toLowerCase())}`}
          </Button>
        </>
      )}
    </aside>
  );
}

/** Which team accounts and leads belong to: the first territory whose question is met. */
export function Component() {
  const { teams } = useSession();
  const [parameters, setParameters] = useSearchParams();
  const [made, setMade] = useState<number>();
  const write = useWrite<Territory>();
  const kind: TerritoryKind = parameters.get('of') === 'lead' ? 'lead' : 'account';
  const { plural } = objectType(kind);
  const { data, error, refetch } = useQuery(
    allRecords({
      ...ask('territory', { field: 'object', is: 'anyOf', value: [kind] }),
      sort: [{ field: 'position' }, { field: 'id' }],
    }),
  );
  const territories = (data?.rows ?? []) as unknown as Territory[];
  const change = ({ id, version }: Territory, body: Partial<Territory>) =>
    write.mutate({ method: 'PATCH', path: `/territories/${id}`, version, body });
  const move = async (at: number, step: 1 | -1) => {
    for (const [position, territory] of moved(territories, at, step).entries())
      if (territory.position !== position)
        await write.mutateAsync({
          method: 'PATCH',
          path: `/territories/${territory.id}`,
          version: territory.version,
          body: { position },
        });
  };
  const add = () =>
    write.mutate(
      {
        method: 'POST',
        path: '/territories',
        body: {
          name: `Territory ${territories.length + 1}`,
          object: kind,
          team: teams[0]?.id,
          position: territories.length,
          active: true,
        },
      },
      { onSuccess: ({ value }) => setMade(value.id) },
    );
  return (
    <>
      <header className="page-head">
        <h1>Territories</h1>
        <span className="page-count">which team {plural.toLowerCase()} belong to</span>
        <div className="page-tools">
          <Segmented
            value={kind}
            options={kinds}
            onChange={(of) => setParameters({ of }, { replace: true })}
            aria-label="Of"
          />
          <Allowed object="territory" to="add">
            <Button type="primary" icon={<Plus size={15} />} onClick={add} disabled={teams.length === 0}>
              Territory
            </Button>
          </Allowed>
        </div>
      </header>
      <div className="assignment">
        {error ? (
          <Trouble error={error} retry={() => void refetch()} />
        ) : !data ? (
          <Skeleton rows={6} />
        ) : (
          <section aria-label="Territories">
            {territories.length === 0 && (
              <Empty title="No territories yet.">
                <p>A territory is a question about {plural.toLowerCase()}, and the team they belong to.</p>
              </Empty>
            )}
            <ol className="rules">
              {territories.map((territory, index) => {
                const where = territory.condition
                  ? (JSON.parse(territory.condition) as Condition)
                  : undefined;
                const setWhere = (next: Condition | undefined) =>
                  change(territory, { condition: next ? JSON.stringify(next) : null });
                return (
                  <li key={territory.id} className={`rule ${territory.active ? '' : 'rule-off'}`}>
                    <div className="rule-head">
                      <KeptName
                        variant="borderless"
                        className="rule-name"
                        value={territory.name}
                        maxLength={80}
                        autoFocus={territory.id === made}
                        aria-label="Name of the territory"
                        keep={(name) => change(territory, { name })}
                      />
                      <Switch
                        size="small"
                        checked={territory.active}
                        aria-label={`${territory.name} is in use`}
                        onChange={(active) => change(territory, { active })}
                      />
                      <MoveButtons
                        name={territory.name}
                        at={index}
                        count={territories.length}
                        move={(step) => void move(index, step).catch(() => undefined)}
                      />
                      <Allowed object="territory" to="delete">
                        <Button
                          type="text"
                          size="small"
                          icon={<Trash2 size={14} />}
                          aria-label={`Delete ${territory.name}`}
                          onClick={() =>
                            write.mutate({
                              method: 'DELETE',
                              path: `/territories/${territory.id}`,
                              version: territory.version,
                            })
                          }
                        />
                      </Allowed>
                    </div>
                    <div
                      className="sentence rule-sentence"
                      role="group"
                      aria-label={`What ${territory.name} is`}
                    >
                      <span className="clause">
                        {where ? `${plural} where` : `Every ${objectType(kind).label.toLowerCase()}`}
                        <KeptCondition object={kind} condition={where} keep={setWhere} />
                      </span>
                    </div>
                    <Asleep where={where} object={kind} />
                    <div className="rule-gives territory-team">
                      <span>belongs to</span>
                      <Select
                        value={territory.team}
                        options={teams.map(({ id, name }) => ({ value: id, label: name }))}
                        showSearch={{ optionFilterProp: 'label' }}
                        onChange={(team) => change(territory, { team })}
                        aria-label={`Team of ${territory.name}`}
                      />
                    </div>
                  </li>
                );
              })}
            </ol>
          </section>
        )}
        <Apply kind={kind} territories={territories} />
      </div>
    </>
  );
}
