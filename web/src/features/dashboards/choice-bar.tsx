import { ME, reportPeriodInWords, suggestPeriods, type DashboardChoice } from '@zawn/core';
import { Select } from 'antd';
import { useState } from 'react';
import { date } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

interface Props {
  choice: DashboardChoice;
  choose: (choice: DashboardChoice) => void;
}

type PeriodChoice = NonNullable<DashboardChoice['period']>;

/** Periods that are offered before anything is typed. */
const USUAL = 12;

/** What is chosen once for all tiles: the period, the team, the person and the pipeline. */
export function ChoiceBar({ choice, choose }: Props) {
  const { people, teams, pipelinesInUse, me } = useSession();
  const [typed, setTyped] = useState('');
  const set = <K extends keyof DashboardChoice>(part: K, value: DashboardChoice[K] | undefined) => {
    const { [part]: _before, ...rest } = choice;
    choose(value === undefined ? rest : { ...rest, [part]: value });
  };
  const periods = new Map<string, PeriodChoice>(
    [
      ...(choice.period ? [choice.period] : []),
      ...suggestPeriods(typed).slice(0, typed ? undefined : USUAL),
    ].map((period) => [JSON.stringify(period), period]),
  );
  return (
    <div className="dashboard-choice" role="group" aria-label="For all tiles">
      <Select
        aria-label="Period"
        className="dashboard-choice-wide"
        allowClear
        showSearch={{ filterOption: false, onSearch: setTyped }}
        placeholder="Any time"
        value={choice.period && JSON.stringify(choice.period)}
        options={[...periods].map(([value, period]) => ({
          value,
          label: capital(reportPeriodInWords(period, date)),
        }))}
        onChange={(value?: string) => set('period', value === undefined ? undefined : periods.get(value))}
      />
      {teams.length > 0 && (
        <Select
          aria-label="Team"
          allowClear
          showSearch={{ optionFilterProp: 'label' }}
          placeholder="Every team"
          value={choice.team}
          options={teams.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(team?: number) => set('team', team)}
        />
      )}
      <Select
        aria-label="Person"
        allowClear
        showSearch={{ optionFilterProp: 'label' }}
        placeholder="Everyone"
        value={choice.person}
        options={[
          { value: ME, label: 'Me' },
          ...people.filter(({ id }) => id !== me.id).map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(person?: number | typeof ME) => set('person', person)}
      />
      {pipelinesInUse.length > 1 && (
        <Select
          aria-label="Pipeline"
          allowClear
          placeholder="Every pipeline"
          value={choice.pipeline}
          options={pipelinesInUse.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(pipeline?: number) => set('pipeline', pipeline)}
        />
      )}
    </div>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
