import { type AnyRecord } from '@zawn/core';
import { App, Select } from 'antd';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { likeStage } from './retire';

/** Which pipeline a deal goes through, where there are several: another is chosen with the stage it enters there. */
export function DealPipeline({ deal, isMovable }: { deal: AnyRecord; isMovable: boolean }) {
  const { pipelines, pipelinesInUse, stagesOf } = useSession();
  const { modal } = App.useApp();
  const write = useWrite();
  const known = pipelines.find(({ id }) => id === deal.pipeline);
  if (!known || pipelinesInUse.length < 2) return null;
  if (!isMovable) return <span className="second">{known.name}</span>;
  const askStage = (pipeline: number) => {
    const stages = stagesOf(pipeline);
    const name = pipelinesInUse.find(({ id }) => id === pipeline)?.name ?? '';
    // As far along as it is now, where both have as many stages.
    const at = stagesOf(Number(deal.pipeline)).findIndex(({ id }) => id === deal.stage);
    let stage = likeStage(stages, at)?.id;
    if (stage === undefined) return;
    void modal.confirm({
      title: `Move to ${name}`,
      content: (
        <div className="stage-retiring">
          <p>What the deal went through in {known.name} stays in its history.</p>
          <label htmlFor="pipeline-stage">It enters</label>
          <Select
            id="pipeline-stage"
            defaultValue={stage}
            options={stages.map(({ id, name: its }) => ({ value: id, label: its }))}
            onChange={(next: number) => (stage = next)}
          />
        </div>
      ),
      okText: `Move it to ${name}`,
      onOk: () =>
        write
          .mutateAsync({
            method: 'POST',
            path: `${pathOf('deal', deal.id)}/pipeline`,
            version: deal.version,
            body: { pipeline, stage },
          })
          .catch(() => undefined),
    });
  };
  return (
    <Select
      className="deal-pipeline"
      variant="borderless"
      size="small"
      value={known.id}
      options={[...new Set([known, ...pipelinesInUse])].map(({ id, name }) => ({ value: id, label: name }))}
      popupMatchSelectWidth={false}
      aria-label="Pipeline"
      onChange={askStage}
    />
  );
}
