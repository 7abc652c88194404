import { ask, type AnyRecord, type RecordOf } from '@zawn/core';
import { useQuery } from '@tanstack/react-query';
import { Select } from 'antd';
import { allRecords, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { KeptNumber } from '../../platform/frame/kept-field';
import { useSession } from '../../platform/sessions/session';

type Pipeline = RecordOf<'pipeline'> & { id: number; version: number };
type Link = AnyRecord & RecordOf<'pipelineTeam'>;

/** Months after which a renewal is due where nothing else was said yet. */
const YEAR = 12;

/** Which teams begin deals in a pipeline, and to which of them it is proposed first. */
function Teams({ pipeline }: { pipeline: Pipeline }) {
  const { teams } = useSession();
  const { data } = useQuery(allRecords(ask('pipelineTeam')));
  const write = useWrite();
  if (!data) return null;
  const own = (data.rows as Link[]).filter((link) => link.pipeline === pipeline.id);
  const options = teams.map(({ id, name }) => ({ value: id, label: name }));
  const linkOf = (team: number) => own.find((link) => link.team === team);
  const add = (team: number, proposed: boolean) =>
    write.mutate({
      method: 'POST',
      path: pathOf('pipelineTeam'),
      body: { pipeline: pipeline.id, team, proposed },
    });
  const propose = (team: number, proposed: boolean) => {
    const link = linkOf(team);
    if (!link) return add(team, proposed);
    write.mutate({
      method: 'PATCH',
      path: pathOf('pipelineTeam', link.id),
      version: link.version,
      body: { proposed },
    });
  };
  const remove = (team: number) => {
    const link = linkOf(team);
    if (link)
      write.mutate({ method: 'DELETE', path: pathOf('pipelineTeam', link.id), version: link.version });
  };
  const select = (
    label: string,
    placeholder: string,
    value: number[],
    choose: (team: number) => void,
    leave: (team: number) => void,
  ) => (
    <Select
      mode="multiple"
      value={value}
      options={options}
      placeholder={placeholder}
      showSearch={{ optionFilterProp: 'label' }}
      aria-label={`${label} ${pipeline.name}`}
      onSelect={choose}
      onDeselect={leave}
    />
  );
  return (
    <>
      <span className="second">Used by</span>
      {select(
        'Teams that use',
        'Every team',
        own.map(({ team }) => team),
        (team) => add(team, false),
        remove,
      )}
      <span className="second">Proposed first to</span>
      {select(
        'Teams first proposed',
        'The first in order is proposed',
        own.filter(({ proposed }) => proposed === true).map(({ team }) => team),
        (team) => propose(team, true),
        (team) => propose(team, false),
      )}
    </>
  );
}

/** Who begins deals in a pipeline, and what becomes of those won in it. */
export function PipelineUse({ pipeline }: { pipeline: Pipeline }) {
  const { teams, pipelinesInUse, pipelines } = useSession();
  const write = useWrite();
  const change = (body: Partial<RecordOf<'pipeline'>>) =>
    write.mutate({ method: 'PATCH', path: pathOf('pipeline', pipeline.id), version: pipeline.version, body });
  const offered = pipelines.filter((each) => pipelinesInUse.includes(each) || each.id === pipeline.renewsIn);
  return (
    <div className="pipeline-use">
      {teams.length > 1 && <Teams pipeline={pipeline} />}
      <span className="second">Won deals are renewed in</span>
      <Select
        allowClear
        value={pipeline.renewsIn ?? undefined}
        options={offered.map(({ id, name }) => ({ value: id, label: name }))}
        placeholder="No pipeline"
        aria-label={`Where deals won in ${pipeline.name} are renewed`}
        onChange={(renewsIn: number | undefined) =>
          change(
            renewsIn === undefined
              ? { renewsIn: null, renewsAfter: null }
              : { renewsIn, renewsAfter: pipeline.renewsAfter ?? YEAR },
          )
        }
      />
      {pipeline.renewsIn !== null && (
        <>
          <span className="second">due so many months after the win</span>
          <KeptNumber
            value={pipeline.renewsAfter}
            min={1}
            max={120}
            aria-label={`Months after which deals won in ${pipeline.name} are renewed`}
            keep={(renewsAfter) => {
              if (renewsAfter !== null) change({ renewsAfter });
            }}
          />
        </>
      )}
    </div>
  );
}
