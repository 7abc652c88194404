import { useQuery } from '@tanstack/react-query';
import { ask, type Condition, type RecordOf } from '@zawn/core';
import { Button, Input, InputNumber, Switch } from 'antd';
import { Plus, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { Allowed } from '../../platform/sessions/allowed';
import { allRecords } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { Asleep } from '../../kernel/sentence/asleep';
import { KeptCondition } from '../../kernel/sentence/kept-condition';
import './setup.css';

type Rule = RecordOf<'scoreRule'>;

const RULES = { ...ask('scoreRule'), sort: [{ field: 'points', descending: true }, { field: 'name' }] };
/** What a new rule asks until somebody says what it should. */
const FIRST: Condition = { field: 'phone', is: 'isNotEmpty' };

/** The rules that give leads points: each a question with what it is worth, read and changed as a sentence. */
export function Component() {
  const { data, error, refetch } = useQuery(allRecords(RULES));
  const write = useWrite();
  const rules = (data?.rows ?? []) as unknown as Rule[];
  const change = ({ id, version }: Rule, body: Partial<Rule>) =>
    write.mutate({ method: 'PATCH', path: `/score-rules/${id}`, version, body });
  const add = () =>
    write.mutate({
      method: 'POST',
      path: '/score-rules',
      body: { name: 'New rule', points: 5, condition: JSON.stringify(FIRST), active: true },
    });
  return (
    <>
      <header className="page-head">
        <h1>Scores</h1>
        <span className="page-count">what makes a lead worth calling first</span>
        <div className="page-tools">
          <Allowed object="scoreRule" to="add">
            <Button type="primary" icon={<Plus size={15} />} onClick={add}>
              Rule
            </Button>
          </Allowed>
        </div>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={6} />
      ) : rules.length === 0 ? (
        <Empty title="No rules yet.">
          <p>A rule is a question about leads and the points it is worth. Call-down goes by the sum.</p>
        </Empty>
      ) : (
        <ul className="score-rule-list" aria-label="Score rules">
          {rules.map((rule) => {
            const where = JSON.parse(rule.condition) as Condition;
            const set = (next: Condition | undefined) =>
              next && change(rule, { condition: JSON.stringify(next) });
            return (
              <li key={rule.id} className={rule.active ? '' : 'score-rule-off'}>
                <InputNumber<number>
                  key={`${rule.id} ${rule.version}`}
                  className="score-points"
                  defaultValue={rule.points}
                  min={-1000}
                  max={1000}
                  precision={0}
                  aria-label={`Points of ${rule.name}`}
                  onBlur={({ target }) => {
                    const points = Number(target.value);
                    if (points !== 0 && points !== rule.points) change(rule, { points });
                  }}
                />
                <div>
                  <Input
                    variant="borderless"
                    className="rule-name"
                    defaultValue={rule.name}
                    maxLength={80}
                    aria-label="Name of the rule"
                    onBlur={({ target }) =>
                      target.value.trim() &&
                      target.value !== rule.name &&
                      change(rule, { name: target.value })
                    }
                  />
                  <div className="sentence" role="group" aria-label={`Leads that ${rule.name} counts for`}>
                    <span className="clause">
                      Leads where{' '}
                      <KeptCondition object="lead" condition={where} keep={(next) => next && set(next)} />
                    </span>
                  </div>
                  <Asleep where={where} />
                </div>
                <Link to={listAddress('leads', ask('lead', where))} className="second">
                  Show them
                </Link>
                <Switch
                  size="small"
                  checked={rule.active}
                  aria-label={`${rule.name} is in use`}
                  onChange={(active) => change(rule, { active })}
                />
                <Allowed object="scoreRule" to="delete">
                  <Button
                    type="text"
                    size="small"
                    icon={<Trash2 size={14} />}
                    aria-label={`Delete ${rule.name}`}
                    onClick={() =>
                      write.mutate({
                        method: 'DELETE',
                        path: `/score-rules/${rule.id}`,
                        version: rule.version,
                      })
                    }
                  />
                </Allowed>
              </li>
            );
          })}
        </ul>
      )}
    </>
  );
}
