import { useQuery } from '@tanstack/react-query';
import { ask, type RecordOf, type StageMeasures } from '@zawn/core';
import { Button, Input } from 'antd';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Allowed } from '../../platform/sessions/allowed';
import { call } from '../../platform/api/client';
import { allRecords, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useOrder } from '../../platform/frame/use-order';
import { KeptName } from '../../platform/frame/kept-field';
import { PipelineUse } from './pipeline-use';
import { useGuideItems } from '../guides/step-guide';
import { RetirePipeline } from './retire';
import { StageRow, type Measured, type Stage } from './stage-row';
import './pipelines.css';

type Pipeline = RecordOf<'pipeline'>;

const PIPELINES = { ...ask('pipeline'), sort: [{ field: 'position' }] };
const STAGES = { ...ask('stage'), sort: [{ field: 'position' }] };
/** What a new stage begins with. */
const NEW_STAGE = { probability: 50, usualDays: 21 };

interface PipelineProps {
  pipeline: Pipeline;
  stages: readonly Stage[];
  measured: (stage: number) => Measured;
  /** Others that are used beside it, with their stages in use. */
  others: readonly { pipeline: Pipeline; stages: readonly Stage[] }[];
}

/** One pipeline with its stages, in the order a deal goes through them. */
function PipelinePart({ pipeline, stages, measured, others }: PipelineProps) {
  const write = useWrite();
  const items = useGuideItems();
  const [name, setName] = useState('');
  const retired = stages.filter((stage) => stage.retired === true);
  const change = (body: Partial<RecordOf<'pipeline'>>) =>
    write.mutate({ method: 'PATCH', path: `/pipelines/${pipeline.id}`, version: pipeline.version, body });
  const [used, move] = useOrder(
    stages.filter((stage) => stage.retired !== true),
    (order) =>
      write.mutateAsync({
        method: 'POST',
        path: `/pipelines/${pipeline.id}/stage-order`,
        body: { stages: [...order, ...retired].map(({ id }) => id) },
      }),
  );
  return (
    <section className="pipeline" aria-label={pipeline.name}>
      <header>
        <KeptName
          variant="borderless"
          className="pipeline-name"
          value={pipeline.name}
          maxLength={200}
          aria-label={`Name of the pipeline ${pipeline.name}`}
          keep={(next) => change({ name: next })}
        />
        <RetirePipeline
          pipeline={pipeline}
          stages={used.map((stage) => ({ ...stage, open: measured(stage.id).open }))}
          others={others}
        />
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
            <th scope="col">Guide</th>
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
              move={(step) => move(at, step)}
              items={items.filter((item) => item.stage === stage.id)}
              {...measured(stage.id)}
            />
          ))}
        </tbody>
      </table>
      <Allowed object="stage" to="add">
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
      </Allowed>
      <PipelineUse pipeline={pipeline} />
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
  const withStages = used
    .map((pipeline) => ({
      pipeline,
      stages: stages.filter((stage) => stage.pipeline === pipeline.id && stage.retired !== true),
    }))
    .filter((each) => each.stages.length > 0);
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
          <Allowed object="pipeline" to="add">
            <Button type="primary" icon={<Plus size={15} />} onClick={add}>
              Pipeline
            </Button>
          </Allowed>
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
              others={withStages.filter((other) => other.pipeline.id !== pipeline.id)}
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
