import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import {
  allOf,
  ask,
  isLikeOutcome,
  type Job,
  type RecordOf,
  type StageMeasure,
  type StageMeasures,
} from '@zawn/core';
import { App, Button, Input, InputNumber, Select } from 'antd';
import { Archive, Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../platform/api/client';
import { refusedWords, useFollowJob } from '../../platform/api/follow-job';
import { allRecords, RECORDS } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { counted, number, percent } from '../../platform/frame/format';
import { MoveButtons, moved } from '../../platform/frame/move-buttons';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import './pipelines.css';

type Kept<K extends 'pipeline' | 'stage'> = RecordOf<K> & { id: number; version: number };
type Stage = Kept<'stage'>;
type Pipeline = Kept<'pipeline'>;

const PIPELINES = { ...ask('pipeline'), sort: [{ field: 'position' }] };
const STAGES = { ...ask('stage'), sort: [{ field: 'position' }] };
/** What a new stage begins with. */
const NEW_STAGE = { probability: 50, usualDays: 21 };
/** Deals from which a share says something. */
const ENOUGH = 5;

interface Measured {
  measure: StageMeasure | undefined;
  open: number;
}

/** What was measured, offered in one click where it differs from what is set. */
function Offered({
  words,
  value,
  kept,
  use,
  label,
}: {
  words: string;
  value: number | null;
  kept: number;
  use: (value: number) => void;
  label: string;
}) {
  return (
    <span className="second stage-measured">
      {words}
      {value !== null && value !== kept && (
        <button type="button" className="chip" onClick={() => use(value)} aria-label={label}>
          use {number(value)}
        </button>
      )}
    </span>
  );
}

/** Retires a stage: at once where nothing stands in it, otherwise its open deals go to another first. */
function Retire({ stage, others, open }: { stage: Stage; others: readonly Stage[]; open: number }) {
  const { modal } = App.useApp();
  const { announce, complain } = useNotices();
  const queryClient = useQueryClient();
  const follow = useFollowJob();
  const write = useWrite();
  const retire = useMutation({
    mutationFn: (to: number) => call<Job>('POST', `/stages/${stage.id}/retirement`, { body: { to } }),
    onSuccess: (job) =>
      void follow(job)
        .then((ended) => announce({ label: `${ended.label}.${refusedWords(ended)}`, unit: ended.unit ?? 0 }))
        .catch(complain)
        .finally(() => void queryClient.invalidateQueries({ queryKey: [RECORDS] })),
    onError: complain,
  });
  const askWhere = () => {
    let to = others[0].id;
    void modal.confirm({
      title: `Retire “${stage.name}”?`,
      content: (
        <div className="stage-retiring">
          <p>
            {counted(open, 'open deal')} {open === 1 ? 'stands' : 'stand'} in it. Closed deals and what
            happened keep its name.
          </p>
          <label htmlFor="stage-to">The open ones go to</label>
          <Select
            id="stage-to"
            defaultValue={to}
            options={others.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(next: number) => (to = next)}
          />
        </div>
      ),
      okText: `Retire it and move ${counted(open, 'deal')}`,
      onOk: () => retire.mutate(to),
    });
  };
  return (
    <Button
      type="text"
      size="small"
      icon={<Archive size={14} />}
      disabled={others.length === 0}
      title={others.length === 0 ? 'A pipeline needs a stage' : 'Retire'}
      aria-label={`Retire ${stage.name}`}
      onClick={() =>
        open > 0
          ? askWhere()
          : write.mutate({
              method: 'PATCH',
              path: `/stages/${stage.id}`,
              version: stage.version,
              body: { retired: true },
            })
      }
    />
  );
}

interface StageRowProps extends Measured {
  stage: Stage;
  at: number;
  others: readonly Stage[];
  count: number;
  move: (step: 1 | -1) => void;
}

/** One stage: its name, how likely a deal in it is won, how long one usually stays, beside how it really was. */
function StageRow({ stage, at, others, count, move, measure, open }: StageRowProps) {
  const write = useWrite();
  const change = (body: Partial<RecordOf<'stage'>>) =>
    write.mutate({ method: 'PATCH', path: `/stages/${stage.id}`, version: stage.version, body });
  const closed = measure?.closed ?? 0;
  const share = closed >= ENOUGH ? Math.round((100 * (measure?.won ?? 0)) / closed) : null;
  const median = (measure?.stays ?? 0) >= ENOUGH ? (measure?.medianDays ?? null) : null;
  const numberField = (key: 'probability' | 'usualDays', label: string, min: number, max: number) => (
    <InputNumber<number>
      key={stage[key]}
      defaultValue={stage[key]}
      min={min}
      max={max}
      precision={0}
      controls={false}
      aria-label={`${label} of ${stage.name}`}
      onPressEnter={({ currentTarget }) => currentTarget.blur()}
      onBlur={({ target }) => {
        const value = Number(target.value);
        if (target.value !== '' && value >= min && value <= max && value !== stage[key])
          change({ [key]: value });
      }}
    />
  );
  return (
    <tr>
      <td>
        <Input
          key={stage.name}
          variant="borderless"
          defaultValue={stage.name}
          maxLength={200}
          aria-label={`Name of the stage ${stage.name}`}
          onPressEnter={({ currentTarget }) => currentTarget.blur()}
          onBlur={({ target }) => {
            const name = target.value.trim();
            if (name !== '' && name !== stage.name) change({ name });
          }}
        />
        {isLikeOutcome(stage.name) && (
          <small className="stage-remark attention">
            Won and lost are no stages: close a deal as one of them, and it leaves the pipeline.
          </small>
        )}
      </td>
      <td className="stage-set">
        {numberField('probability', 'Probability in percent', 0, 100)} %
        <Offered
          words={
            closed === 0
              ? 'no deal closed yet'
              : `${percent((measure?.won ?? 0) / closed)} of ${number(closed)} won`
          }
          value={share}
          kept={stage.probability}
          use={(probability) => change({ probability })}
          label={`Use ${share ?? ''} percent for ${stage.name}`}
        />
      </td>
      <td className="stage-set">
        {numberField('usualDays', 'Usual days', 1, 3650)} days
        <Offered
          words={
            measure?.medianDays == null
              ? 'none has left it yet'
              : `half within ${number(measure.medianDays)}, nine in ten within ${number(measure.ninetiethDays ?? 0)}`
          }
          value={median === null ? null : Math.max(1, median)}
          kept={stage.usualDays}
          use={(usualDays) => change({ usualDays })}
          label={`Use ${median ?? ''} days for ${stage.name}`}
        />
      </td>
      <td className="figure">
        <Link
          to={listAddress('deals', {
            ...ask('deal'),
            where: allOf(
              { field: 'stage', is: 'anyOf', value: [stage.id] },
              { field: 'outcome', is: 'anyOf', value: ['open'] },
            ),
          })}
        >
          {number(open)}
        </Link>
      </td>
      <td className="stage-actions">
        <MoveButtons name={stage.name} at={at} count={count} move={move} />
        <Retire stage={stage} others={others} open={open} />
      </td>
    </tr>
  );
}

interface PipelineProps {
  pipeline: Pipeline;
  stages: readonly Stage[];
  measured: (stage: number) => Measured;
  /** Others are used beside it. */
  canRetire: boolean;
}

/** One pipeline with its stages, in the order a deal goes through them. */
function PipelinePart({ pipeline, stages, measured, canRetire }: PipelineProps) {
  const write = useWrite();
  const [name, setName] = useState('');
  const used = stages.filter(({ retired }) => retired !== true);
  const retired = stages.filter((stage) => stage.retired === true);
  const change = (body: Partial<RecordOf<'pipeline'>>) =>
    write.mutate({ method: 'PATCH', path: `/pipelines/${pipeline.id}`, version: pipeline.version, body });
  const open = stages.reduce((sum, { id }) => sum + measured(id).open, 0);
  const order = (at: number, step: 1 | -1) =>
    write.mutate({
      method: 'POST',
      path: `/pipelines/${pipeline.id}/stage-order`,
      body: { stages: [...moved(used, at, step), ...retired].map(({ id }) => id) },
    });
  return (
    <section className="pipeline" aria-label={pipeline.name}>
      <header>
        <Input
          key={pipeline.name}
          variant="borderless"
          className="pipeline-name"
          defaultValue={pipeline.name}
          maxLength={200}
          aria-label={`Name of the pipeline ${pipeline.name}`}
          onPressEnter={({ currentTarget }) => currentTarget.blur()}
          onBlur={({ target }) => {
            const next = target.value.trim();
            if (next !== '' && next !== pipeline.name) change({ name: next });
          }}
        />
        <Button
          size="small"
          disabled={!canRetire || open > 0}
          title={open > 0 ? `${counted(open, 'deal')} still open in it` : undefined}
          onClick={() => change({ retired: true })}
        >
          Retire
        </Button>
      </header>
      <table>
        <thead>
          <tr>
            <th scope="col">Stage</th>
            <th scope="col">Won from here</th>
            <th scope="col">Usually stays</th>
            <th scope="col" className="figure">
              Open
            </th>
            <th scope="col">
              <span className="visually-hidden">Order and retiring</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {used.map((stage, at) => (
            <StageRow
              key={stage.id}
              stage={stage}
              at={at}
              count={used.length}
              others={used.filter(({ id }) => id !== stage.id)}
              move={(step) => order(at, step)}
              {...measured(stage.id)}
            />
          ))}
        </tbody>
      </table>
      <form
        className="pipeline-add"
        onSubmit={(event) => {
          event.preventDefault();
          const body = { name: name.trim(), pipeline: pipeline.id, position: 0, ...NEW_STAGE };
          write.mutate({ method: 'POST', path: '/stages', body }, { onSuccess: () => setName('') });
        }}
      >
        <Input
          value={name}
          maxLength={200}
          placeholder="Another stage, at the end"
          aria-label={`Name of another stage of ${pipeline.name}`}
          onChange={({ target }) => setName(target.value)}
        />
        <Button htmlType="submit" icon={<Plus size={14} />} disabled={name.trim() === ''}>
          Add
        </Button>
      </form>
      {retired.length > 0 && (
        <p className="second pipeline-retired">
          Retired:
          {retired.map((stage) => (
            <Button
              key={stage.id}
              size="small"
              aria-label={`Bring back ${stage.name}`}
              onClick={() =>
                write.mutate({
                  method: 'PATCH',
                  path: `/stages/${stage.id}`,
                  version: stage.version,
                  body: { retired: false },
                })
              }
            >
              {stage.name}, bring back
            </Button>
          ))}
        </p>
      )}
    </section>
  );
}

/** The pipelines and their stages: what a deal goes through until it is won or lost. */
export function Component() {
  const write = useWrite();
  const { data, error, refetch } = useQuery(allRecords(PIPELINES));
  const { data: allStages } = useQuery(allRecords(STAGES));
  const { data: measures } = useQuery({
    queryKey: [RECORDS, 'stage-measures'],
    queryFn: ({ signal }) => call<StageMeasures>('GET', '/stage-measures', { signal }),
  });
  const pipelines = (data?.rows ?? []) as unknown as Pipeline[];
  const stages = (allStages?.rows ?? []) as unknown as Stage[];
  const used = pipelines.filter(({ retired }) => retired !== true);
  const retired = pipelines.filter((pipeline) => pipeline.retired === true);
  const measured = (stage: number): Measured => ({
    measure: measures?.measures.find((each) => each.stage === stage),
    open: measures?.open.find((each) => each.stage === stage)?.count ?? 0,
  });
  const add = () => {
    const names = new Set(pipelines.map(({ name }) => name));
    let count = pipelines.length + 1;
    while (names.has(`Pipeline ${count}`)) count += 1;
    write.mutate({ method: 'POST', path: '/pipelines', body: { name: `Pipeline ${count}`, position: 0 } });
  };
  return (
    <>
      <header className="page-head">
        <h1>Pipelines and stages</h1>
        <span className="page-count">what a deal goes through; beside it, how it was in twelve months</span>
        <div className="page-tools">
          <Button type="primary" icon={<Plus size={15} />} onClick={add}>
            Pipeline
          </Button>
        </div>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data || !allStages || !measures ? (
        <Skeleton rows={9} />
      ) : (
        <div className="pipelines">
          {used.map((pipeline) => (
            <PipelinePart
              key={pipeline.id}
              pipeline={pipeline}
              stages={stages.filter((stage) => stage.pipeline === pipeline.id)}
              measured={measured}
              canRetire={used.length > 1}
            />
          ))}
          {retired.length > 0 && (
            <p className="second pipeline-retired">
              Retired:
              {retired.map((pipeline) => (
                <Button
                  key={pipeline.id}
                  size="small"
                  aria-label={`Bring back ${pipeline.name}`}
                  onClick={() =>
                    write.mutate({
                      method: 'PATCH',
                      path: `/pipelines/${pipeline.id}`,
                      version: pipeline.version,
                      body: { retired: false },
                    })
                  }
                >
                  {pipeline.name}, bring back
                </Button>
              ))}
            </p>
          )}
        </div>
      )}
    </>
  );
}
