import { useQuery } from '@tanstack/react-query';
import {
  addDays,
  ask,
  completeQuestion,
  daysInWords,
  fieldOfGroup,
  movementGroupNames,
  movementGroups,
  movementStepNames,
  movementSteps,
  periodOf,
  whereInWords,
  type Design,
  type MovementAnswer,
  type MovementGroup,
  type MovementPart,
  type MovementQuestion,
  type MovementStep,
  type Names,
  type Question,
} from '@zawn/core';
import { DatePicker, Select } from 'antd';
import dayjs from 'dayjs';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { keyLabel, type LabelContext } from '../../kernel/drawings/key-label';
import { useWording } from '../../kernel/questions/use-wording';
import { Sentence } from '../../kernel/sentence/sentence';
import { briefMoney, date, money, number } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { ForPaper } from '../../platform/theme/for-paper';
import { MovementChart } from './charts/movement-chart';
import { MovementEntries } from './movement-entries';
import './reports.css';

const NO_NAMES: Names = {};

/** What is asked, as the address says it: this fiscal quarter so far, unless it says otherwise. */
function useAsked(): [MovementQuestion, (next: MovementQuestion) => void] {
  const { today, organisation } = useSession();
  const [parameters, setParameters] = useSearchParams();
  const text = parameters.get('m');
  const asked = useMemo<MovementQuestion>(() => {
    const { from } = periodOf('fiscalQuarter', today, organisation);
    const usual: MovementQuestion = { from, to: today, by: 'owner' };
    try {
      return text === null ? usual : { ...usual, ...(JSON.parse(text) as MovementQuestion) };
    } catch {
      return usual;
    }
  }, [text, today, organisation]);
  const set = (next: MovementQuestion) =>
    setParameters((all) => {
      all.set('m', JSON.stringify(next));
      return all;
    });
  return [asked, set];
}

/** How the open pipeline went from one day to another: a stepped drawing, a table, and the deals behind each step. */
export function Component() {
  const { catalogue, organisation, today } = useSession();
  const [asked, change] = useAsked();
  const question: Question = { ...ask('deal', asked.where), groups: [] };
  const { where: _where, ...rest } = asked;
  const { where } = completeQuestion(catalogue, question);
  const complete: MovementQuestion = { ...rest, ...(where ? { where } : {}) };
  const { data, error, refetch, isPlaceholderData } = useQuery({
    queryKey: [RECORDS, 'movement', complete],
    queryFn: ({ signal }) => call<MovementAnswer>('POST', '/reports/movement', { body: complete, signal }),
    placeholderData: (before) => before,
    retry: false,
  });
  const wording = useWording(data?.names ?? NO_NAMES);
  const labels: LabelContext = { catalogue, calendar: organisation, wording, names: NO_NAMES };
  const [opened, setOpened] = useState<{ key: string; step: MovementStep }>();
  const text = (value: number) => money(value, organisation.currency);
  const signed = (value: number) => `${value > 0 ? '+' : ''}${text(value)}`;
  const by = data?.asked.by ?? 'owner';
  // A month is written as one of close dates would be.
  const grouping = by === 'month' ? ({ field: 'closeOn', by } as const) : { field: fieldOfGroup(by) ?? by };
  const nameOf = (part: MovementPart) =>
    part === data?.all ? 'All' : keyLabel('deal', grouping, part.key, labels);
  const bySize = (a: MovementPart, b: MovementPart) => b.end.value - a.end.value;
  const groups = data && (by === 'month' ? data.groups : [...data.groups].sort(bySize));
  const parts = data && groups ? [...groups, data.all] : [];
  const asToday = (data?.asToday ?? []).map((part) => whereInWords('deal', part, wording));
  const keyOf = (part: MovementPart) => (part === data?.all ? 'all' : JSON.stringify(part.key));
  const shown = parts.find((part) => keyOf(part) === opened?.key);
  // Handing on between owners is a step of theirs, and none of the whole.
  const steps = movementSteps.filter((step) => parts.some((part) => part.steps[step].count > 0));
  const day = (value: string) => dayjs(value);
  return (
    <div className={shown ? 'report-page report-page-beside' : 'report-page'}>
      <div className="report">
        <header className="page-head view-head">
          <h1>How the pipeline moved</h1>
          <span className="page-count" role="status">
            {data && `${signed(data.all.end.value - data.all.start.value)} since then`}
          </span>
          <div className="page-tools">
            <DatePicker.RangePicker
              aria-label="From and to"
              allowClear={false}
              value={[day(asked.from), day(asked.to)]}
              maxDate={day(today)}
              onChange={(days) => {
                const [from, to] = days ?? [];
                if (from && to)
                  change({ ...asked, from: from.format('YYYY-MM-DD'), to: to.format('YYYY-MM-DD') });
              }}
            />
            <Select<MovementGroup>
              aria-label="By"
              value={asked.by ?? 'owner'}
              options={movementGroups.map((by) => ({ value: by, label: movementGroupNames[by] }))}
              onChange={(by) => change({ ...asked, by })}
            />
          </div>
        </header>
        <Sentence
          design={{ question, draw: 'table' } satisfies Design}
          onChange={({ question: { where: next } }) => change({ ...rest, ...(next ? { where: next } : {}) })}
          wording={wording}
          leftOut={[]}
          mostGroups={0}
          looksBack={false}
          rest={<span className="said">open at the time</span>}
        />
        {error ? (
          <Trouble error={error} retry={() => void refetch()} />
        ) : !data ? (
          <Skeleton rows={10} />
        ) : parts.every(({ start, end }) => start.count + end.count === 0) && steps.length === 0 ? (
          <Empty title="No open deals then or since." />
        ) : (
          <div className={`report-body ${isPlaceholderData ? 'drawing-stale' : ''}`}>
            <p className="second report-days">
              {daysInWords({ from: asked.from, to: addDays(asked.to, 1) }, date)}, amounts at the rates
              {by === 'month' ? ' each month begins with' : ' it begins with'}
              {asToday.length > 0 && <>. Judged as it is today: {asToday.join('; ')}</>}
            </p>
            <ForPaper className="report-drawing">
              <MovementChart
                part={data.all}
                steps={movementSteps.filter((step) => data.all.steps[step].count > 0)}
                text={text}
                brief={(value) => briefMoney(value, organisation.currency)}
                open={(step) => setOpened({ key: 'all', step })}
              />
            </ForPaper>
            <div className="report-table" tabIndex={0} role="region" aria-label="Figures">
              <table>
                <thead>
                  <tr>
                    <th scope="col" />
                    <th scope="col" className="figure">
                      {by === 'month' ? 'Open at first' : 'Open then'}
                    </th>
                    {steps.map((step) => (
                      <th key={step} scope="col" className="figure">
                        {movementStepNames[step]}
                      </th>
                    ))}
                    <th scope="col" className="figure">
                      Open {asked.to === today && by !== 'month' ? 'now' : 'at the end'}
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {parts.map((part) => (
                    <tr key={keyOf(part)} className={part === data.all ? 'report-all' : ''}>
                      <th scope="row">{nameOf(part)}</th>
                      <td className="figure" title={`${number(part.start.count)} deals`}>
                        {text(part.start.value)}
                      </td>
                      {steps.map((step) => {
                        const { value, count } = part.steps[step];
                        return (
                          <td key={step} className="figure">
                            {count === 0 ? (
                              <span className="second">–</span>
                            ) : (
                              <button
                                type="button"
                                className="link-button"
                                aria-label={`${nameOf(part)}, ${movementStepNames[step]}: ${text(value)}, ${number(count)} deals`}
                                onClick={() => setOpened({ key: keyOf(part), step })}
                              >
                                {text(value)}
                              </button>
                            )}
                          </td>
                        );
                      })}
                      <td className="figure" title={`${number(part.end.count)} deals`}>
                        {text(part.end.value)}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </div>
        )}
      </div>
      {data && shown && opened && (
        <MovementEntries
          title={`${movementStepNames[opened.step]}: ${nameOf(shown)}`}
          step={shown.steps[opened.step]}
          names={data.names.deal ?? {}}
          text={text}
          isMoney={opened.step === 'raised' || opened.step === 'cut'}
          close={() => setOpened(undefined)}
        />
      )}
    </div>
  );
}
