import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { ask, fieldOf, type AssignmentTrial, type FieldValue } from '@zawn/core';
import { Button, Select } from 'antd';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Allowed } from '../../platform/sessions/allowed';
import { call } from '../../platform/api/client';
import { allRecords, RECORDS } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { counted } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { keepPositions, useOrder } from '../../platform/frame/use-order';
import { FieldInput } from '../../kernel/records/field-input';
import { useSession } from '../../platform/sessions/session';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';
import './assignment.css';
import { RuleCard, type Rule } from './rule-card';

const RULES = { ...ask('assignmentRule'), sort: [{ field: 'position' }, { field: 'name' }] };
/** What a lead is usually told apart by. */
const TRIED = ['organisation', 'country', 'source', 'interest', 'campaign', 'timeFrame'];
/** Who would get a lead like this one: tried against the rules as they stand. */
function useTrial(values: Record<string, FieldValue>, rules: readonly Rule[]) {
  return useQuery({
    queryKey: [RECORDS, 'assignment', values, rules.map(({ id, version }) => [id, version])],
    queryFn: ({ signal }) => call<AssignmentTrial>('POST', '/assignment/try', { body: values, signal }),
    placeholderData: keepPreviousData,
  });
}

/** The rules by which new leads get their owner, in the order they are looked at, and a lead to try them on. */
export function Component() {
  const { people, person, catalogue } = useSession();
  const queryClient = useQueryClient();
  const { complain } = useNotices();
  const { data, error, refetch } = useQuery(allRecords(RULES));
  const write = useWrite();
  const [values, setValues] = useState<Record<string, FieldValue>>({});
  const rules = (data?.rows ?? []) as unknown as Rule[];
  const { data: trial } = useTrial(values, rules);
  const { data: fallback } = useQuery({
    queryKey: [RECORDS, 'assignment', 'default'],
    queryFn: () => call<{ person: number }>('GET', '/assignment/default'),
  });
  const change = (rule: Rule, changes: Partial<Rule>) =>
    write.mutateAsync({
      method: 'PATCH',
      path: `/assignment-rules/${rule.id}`,
      version: rule.version,
      body: changes,
    });
  const [ordered, move] = useOrder(rules, (order, swapped) => keepPositions(order, swapped, change));
  const add = () =>
    write.mutate({
      method: 'POST',
      path: '/assignment-rules',
      body: {
        name: `Rule ${rules.length + 1}`,
        to: 'person',
        person: people.find(({ active, sells }) => active && sells === 'always')?.id,
        position: rules.length,
        active: true,
      },
    });
  const setDefault = async (id: number) => {
    await call('PATCH', '/assignment/default', { body: { person: id } }).catch(complain);
    await queryClient.invalidateQueries({ queryKey: [RECORDS, 'assignment'] });
  };
  const decided = rules.find(({ id }) => id === trial?.rule);
  return (
    <>
      <header className="page-head">
        <h1>Assignment</h1>
        <span className="page-count">who gets a new lead: the first rule that is met decides</span>
        <div className="page-tools">
          <Allowed object="assignmentRule" to="add">
            <Button type="primary" icon={<Plus size={15} />} onClick={add}>
              Rule
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
          <section aria-label="Rules">
            {rules.length === 0 && (
              <Empty title="No rules yet.">
                <p>Every new lead goes to the default owner.</p>
              </Empty>
            )}
            <ol className="rules">
              {ordered.map((rule, index) => (
                <RuleCard
                  key={rule.id}
                  rule={rule}
                  at={index}
                  count={rules.length}
                  isDecisive={rule.id === trial?.rule}
                  change={(changes) => void change(rule, changes).catch(() => undefined)}
                  move={(step) => move(index, step)}
                  remove={() =>
                    write.mutate({
                      method: 'DELETE',
                      path: `/assignment-rules/${rule.id}`,
                      version: rule.version,
                    })
                  }
                />
              ))}
            </ol>
            <label className="rule-default">
              Where no rule is met, it goes to
              <Select
                value={fallback?.person}
                options={peopleToChoose(people, fallback?.person)}
                showSearch={{ optionFilterProp: 'label' }}
                onChange={(id) => void setDefault(id)}
                aria-label="Default owner"
              />
            </label>
          </section>
        )}
        <aside className="trial" aria-label="Try the rules">
          <h2>Who would get this lead?</h2>
          {TRIED.map((key) => {
            const field = fieldOf(catalogue, 'lead', key);
            return field ? (
              <label key={key}>
                {field.label}
                <FieldInput
                  id={`try-${key}`}
                  field={field}
                  value={values[key] ?? null}
                  onChange={(value) =>
                    setValues(({ [key]: _, ...others }) =>
                      value === null || value === '' ? others : { ...others, [key]: value },
                    )
                  }
                />
              </label>
            ) : null;
          })}
          <p className="trial-answer" role="status">
            <b>{trial && data ? (person(trial.owner)?.name ?? 'Nobody') : '…'}</b>
            {data && (
              <span className="second">
                {decided ? `by “${decided.name}”` : `by default, ${counted(rules.length, 'rule')} not met`}
              </span>
            )}
          </p>
        </aside>
      </div>
    </>
  );
}
