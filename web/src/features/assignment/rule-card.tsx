import { type Condition, type RecordOf } from '@zawn/core';
import { Button, Input, Select, Switch } from 'antd';
import { Trash2 } from 'lucide-react';
import { Allowed } from '../../platform/sessions/allowed';
import { nearDate } from '../../platform/frame/format';
import { MoveButtons } from '../../platform/frame/move-buttons';
import { Asleep } from '../../kernel/sentence/asleep';
import { KeptCondition } from '../../kernel/sentence/kept-condition';
import { useSession } from '../../platform/sessions/session';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';

export type Rule = RecordOf<'assignmentRule'>;

const TURNS = 'turns';

interface Props {
  rule: Rule;
  /** Its place among all rules. */
  at: number;
  count: number;
  /** It decides for the lead that is being tried. */
  isDecisive: boolean;
  change: (values: Partial<Rule>) => void;
  move: (step: 1 | -1) => void;
  remove: () => void;
}

/** One rule, read and changed as a sentence: which leads it is for, and who gets them. */
export function RuleCard({ rule, at, count, isDecisive, change, move, remove }: Props) {
  const { people, today } = useSession();
  const where = rule.condition ? (JSON.parse(rule.condition) as Condition) : undefined;
  const group = JSON.parse(rule.people ?? '[]') as number[];
  const given = [rule.person, ...group];
  const offered = people
    .filter(({ id, sells }) => sells !== 'never' || given.includes(id))
    .map((person) => {
      const { name, awayUntil } = person;
      return awayUntil ? { ...person, name: `${name}, away until ${nearDate(awayUntil, today)}` } : person;
    });
  const options = peopleToChoose(offered, ...given);
  const setWhere = (next: Condition | undefined) => change({ condition: next ? JSON.stringify(next) : null });
  return (
    <li className={`rule ${isDecisive ? 'rule-decisive' : ''} ${rule.active ? '' : 'rule-off'}`}>
      <div className="rule-head">
        <Input
          variant="borderless"
          className="rule-name"
          defaultValue={rule.name}
          aria-label="Name of the rule"
          onBlur={({ target }) =>
            target.value.trim() && target.value !== rule.name && change({ name: target.value })
          }
        />
        <Switch
          size="small"
          checked={rule.active}
          aria-label={`${rule.name} is in use`}
          onChange={(active) => change({ active })}
        />
        <MoveButtons name={rule.name} at={at} count={count} move={move} />
        <Allowed object="assignmentRule" to="delete">
          <Button
            type="text"
            size="small"
            icon={<Trash2 size={14} />}
            aria-label={`Delete ${rule.name}`}
            onClick={remove}
          />
        </Allowed>
      </div>
      <div className="sentence rule-sentence" role="group" aria-label={`Leads that ${rule.name} is for`}>
        <span className="clause">
          {where ? 'Leads where' : 'Every lead'}
          <KeptCondition object="lead" condition={where} keep={setWhere} />
        </span>
      </div>
      <Asleep where={where} />
      <div className="rule-gives">
        <Select
          value={rule.to}
          options={[
            { value: 'person', label: 'goes to' },
            { value: TURNS, label: 'goes in turn to' },
          ]}
          onChange={(to) =>
            change(
              to === TURNS
                ? {
                    to,
                    people: JSON.stringify(group.length > 0 ? group : [rule.person ?? options[0]?.value]),
                  }
                : { to, person: rule.person ?? group[0] ?? options[0]?.value },
            )
          }
          aria-label={`How ${rule.name} gives`}
        />
        {rule.to === TURNS ? (
          <Select
            mode="multiple"
            className="rule-people"
            value={group}
            options={options}
            showSearch={{ optionFilterProp: 'label' }}
            onChange={(next: number[]) => next.length > 0 && change({ people: JSON.stringify(next) })}
            aria-label={`Who takes turns in ${rule.name}`}
          />
        ) : (
          <Select
            className="rule-people"
            value={rule.person}
            options={options}
            showSearch={{ optionFilterProp: 'label' }}
            onChange={(person) => change({ person })}
            aria-label={`Who gets the leads of ${rule.name}`}
          />
        )}
      </div>
    </li>
  );
}
