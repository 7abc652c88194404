import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type Job, type RecordOf } from '@zawn/core';
import { Button, Modal, Select } from 'antd';
import { Archive } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { call } from '../../platform/api/client';
import { refusedWords, useFollowJob } from '../../platform/api/follow-job';
import { RECORDS } from '../../platform/api/queries';
import { useNotices, useWrite } from '../../platform/api/use-write';
import { counted, number } from '../../platform/frame/format';

type Stage = RecordOf<'stage'>;
type Pipeline = RecordOf<'pipeline'>;

/** Retires a stage or a pipeline out of which open deals are moved, and follows the work to its end. */
function useRetirement(path: string) {
  const { announce, complain } = useNotices();
  const queryClient = useQueryClient();
  const follow = useFollowJob();
  return useMutation({
    mutationFn: (body: object) => call<Job>('POST', `${path}/retirement`, { body }),
    onSuccess: (job) =>
      void follow(job)
        .then((ended) => announce({ label: `${ended.label}.${refusedWords(ended)}`, unit: ended.unit ?? 0 }))
        .catch(complain)
        .finally(() => void queryClient.invalidateQueries({ queryKey: [RECORDS] })),
    onError: complain,
  });
}

const optionsOf = (choices: readonly { id: number; name: string }[]) =>
  choices.map(({ id, name }) => ({ value: id, label: name }));

interface AskWhereProps {
  name: string;
  open: number;
  /** What the button says it does. */
  does: string;
  retire: () => void;
  close: () => void;
  children: ReactNode;
}

/** Asks where open deals go before they are moved. */
function AskWhere({ name, open, does, retire, close, children }: AskWhereProps) {
  return (
    <Modal
      open
      title={`Retire “${name}”?`}
      okText={does}
      onOk={() => {
        retire();
        close();
      }}
      onCancel={close}
    >
      <div className="stage-retiring">
        <p>
          {counted(open, 'open deal')} {open === 1 ? 'stands' : 'stand'} in it. Closed deals and what happened
          keep its name.
        </p>
        {children}
      </div>
    </Modal>
  );
}

/** Retires a stage: at once where nothing stands in it, otherwise its open deals go to another first. */
export function RetireStage({
  stage,
  others,
  open,
}: {
  stage: Stage;
  others: readonly Stage[];
  open: number;
}) {
  const path = `/stages/${stage.id}`;
  const [isAsking, setAsking] = useState(false);
  const [to = others.at(0)?.id, setTo] = useState<number>();
  const write = useWrite();
  const { mutate: retire } = useRetirement(path);
  const atOnce = () =>
    write.mutate({ method: 'PATCH', path, version: stage.version, body: { retired: true } });
  return (
    <>
      <Button
        type="text"
        size="small"
        icon={<Archive size={14} />}
        disabled={others.length === 0 || undefined}
        title={others.length === 0 ? 'A pipeline needs a stage' : 'Retire'}
        aria-label={`Retire ${stage.name}`}
        onClick={() => (open > 0 ? setAsking(true) : atOnce())}
      />
      {isAsking && (
        <AskWhere
          name={stage.name}
          open={open}
          does={`Retire it and move ${counted(open, 'deal')}`}
          retire={() => retire({ to })}
          close={() => setAsking(false)}
        >
          <label htmlFor="stage-to">The open ones go to</label>
          <Select id="stage-to" value={to} options={optionsOf(others)} onChange={setTo} />
        </AskWhere>
      )}
    </>
  );
}

/** The stage of another pipeline that is as far along, or its last. */
export const likeStage = (stages: readonly Stage[], at: number): Stage | undefined =>
  stages[Math.max(0, at)] ?? stages.at(-1);

interface RetirePipelineProps {
  pipeline: Pipeline;
  /** Its stages in use, with how many deals stand open in each. */
  stages: readonly (Stage & { open: number })[];
  /** The others that deals can go to, with their stages in use. */
  others: readonly { pipeline: Pipeline; stages: readonly Stage[] }[];
}

/** Retires a pipeline: at once where nothing is open in it, otherwise the deals of each stage go to one of another. */
export function RetirePipeline({ pipeline, stages, others }: RetirePipelineProps) {
  const path = `/pipelines/${pipeline.id}`;
  const [isAsking, setAsking] = useState(false);
  const [into = others.at(0)?.pipeline.id, setInto] = useState<number>();
  const [chosen, setChosen] = useState<Readonly<Record<number, number>>>({});
  const write = useWrite();
  const { mutate: retire } = useRetirement(path);
  const open = stages.reduce((sum, stage) => sum + stage.open, 0);
  const targets = others.find((other) => other.pipeline.id === into)?.stages ?? [];
  const moves = stages.flatMap((stage, at) => {
    const to = targets.find(({ id }) => id === chosen[stage.id]) ?? likeStage(targets, at);
    return stage.open > 0 && to ? [{ stage, to: to.id }] : [];
  });
  return (
    <>
      <Button
        size="small"
        disabled={others.length === 0 || undefined}
        title={others.length === 0 ? 'No other pipeline with a stage is used' : undefined}
        aria-label={`Retire the pipeline ${pipeline.name}`}
        onClick={() =>
          open > 0
            ? setAsking(true)
            : write.mutate({ method: 'PATCH', path, version: pipeline.version, body: { retired: true } })
        }
      >
        Retire
      </Button>
      {isAsking && (
        <AskWhere
          name={pipeline.name}
          open={open}
          does={`Retire it and move ${counted(open, 'deal')}`}
          retire={() => retire({ stages: moves.map(({ stage, to }) => ({ stage: stage.id, to })) })}
          close={() => setAsking(false)}
        >
          <label htmlFor="pipeline-to">The open ones go to the pipeline</label>
          <Select
            id="pipeline-to"
            value={into}
            options={optionsOf(others.map((other) => other.pipeline))}
            onChange={setInto}
          />
          <dl className="stage-mapping">
            {moves.map(({ stage, to }) => (
              <div key={stage.id}>
                <dt>
                  {stage.name} <span className="second">{number(stage.open)} open</span>
                </dt>
                <dd>
                  <Select
                    value={to}
                    options={optionsOf(targets)}
                    aria-label={`Deals in ${stage.name} go to`}
                    onChange={(next: number) => setChosen((before) => ({ ...before, [stage.id]: next }))}
                  />
                </dd>
              </div>
            ))}
          </dl>
        </AskWhere>
      )}
    </>
  );
}
