import { useQuery } from '@tanstack/react-query';
import { addDays, allOf, ask, ME, MY_TEAM, type Condition, type GridColumn } from '@zawn/core';
import { Button, Segmented, Select } from 'antd';
import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { allRecords } from '../api/queries';
import { Waterline } from '../forecast/waterline';
import { useAdd } from '../frame/adding';
import { Empty, Skeleton, Trouble } from '../frame/states';
import { listAddress } from '../questions/list-address';
import { type Preset } from '../questions/use-list-question';
import { ListPage } from '../records/list-page';
import { type Column } from '../records/record-table';
import { useSession } from '../sessions/session';
import { DealGrid } from './deal-grid';
import './deals.css';
import { useAttention } from './use-attention';

const OPEN: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };

const presets: Preset[] = [
  { key: 'open', label: 'Open', where: OPEN },
  { key: 'won', label: 'Won', where: { field: 'outcome', is: 'anyOf', value: ['won'] } },
  { key: 'lost', label: 'Lost', where: { field: 'outcome', is: 'anyOf', value: ['lost'] } },
  { key: 'all', label: 'All' },
];

const byClose = { field: 'closeOn' };

function DealTable({ tools }: { tools: React.ReactNode }) {
  const attention = useAttention();
  const columns: Column[] = [
    { field: 'name', width: 260 },
    { field: 'value', width: 84 },
    { field: 'stage', width: 110 },
    { field: 'closeOn', width: 92 },
    { field: 'outcome', width: 62 },
    { field: 'owner', width: 120 },
    {
      field: 'nextStepOn',
      width: 180,
      label: 'Needs attention',
      show: (deal) => <span className="attention">{attention(deal)[0]}</span>,
    },
  ];
  return (
    <ListPage
      object="deal"
      columns={columns}
      presets={presets}
      sort={byClose}
      empty="Deals stand here once a lead is converted or a deal added."
      tools={tools}
    />
  );
}

/** Deals as the grid of stages and months, or as a table. */
export function Component() {
  const [parameters, setParameters] = useSearchParams();
  const { me, team, people, pipelines, stagesOf } = useSession();
  const add = useAdd();
  const isTable = parameters.has('q') || parameters.get('as') === 'table';
  const set = (key: string, value: string | undefined) =>
    setParameters((before) => {
      if (value === undefined) before.delete(key);
      else before.set(key, value);
      if (key === 'as') before.delete('q');
      return before;
    });
  const arrangement = (
    <Segmented
      value={isTable ? 'table' : 'grid'}
      options={[
        { value: 'grid', label: 'Grid' },
        { value: 'table', label: 'Table' },
      ]}
      onChange={(value) => set('as', value === 'table' ? 'table' : undefined)}
      aria-label="Arrangement"
    />
  );
  const pipeline = Number(parameters.get('pipeline') ?? pipelines[0]?.id);
  const chosen = parameters.get('whose');
  const leads = me.role !== 'rep';
  const whose = useMemo<Condition | undefined>(() => {
    if (!leads) return { field: 'owner', is: 'anyOf', value: [ME] };
    if (chosen) return { field: 'owner', is: 'anyOf', value: [Number(chosen)] };
    return me.role === 'manager' ? { field: 'owner', is: 'anyOf', value: [MY_TEAM] } : undefined;
  }, [leads, chosen, me.role]);
  const inPipeline = useMemo<Condition>(
    () => ({ field: 'pipeline', is: 'anyOf', value: [pipeline] }),
    [pipeline],
  );
  const query = allRecords(ask('deal', OPEN, inPipeline, whose));
  const { data, error, refetch } = useQuery({ ...query, enabled: !isTable && pipelines.length > 0 });
  const stages = useMemo(() => stagesOf(pipeline), [stagesOf, pipeline]);

  if (isTable) return <DealTable tools={arrangement} />;
  const listOf = (stage: number | undefined, column: GridColumn | undefined) =>
    listAddress('deals', {
      version: 1,
      object: 'deal',
      where: allOf(
        OPEN,
        inPipeline,
        whose,
        stage === undefined ? undefined : { field: 'stage', is: 'anyOf', value: [stage] },
        column && closesIn(column),
      ),
    });
  const reach = me.role === 'manager' ? team : people.map(({ id }) => id);
  const sellers = people.filter(({ id, role }) => reach.includes(id) && role === 'rep');
  return (
    <>
      <header className="page-head">
        <h1>Deals</h1>
        <div className="page-tools">
          {pipelines.length > 1 && (
            <Segmented
              value={pipeline}
              options={pipelines.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={(id) => set('pipeline', String(id))}
              aria-label="Pipeline"
            />
          )}
          {leads && (
            <Select
              value={chosen ?? ''}
              aria-label="Whose deals"
              popupMatchSelectWidth={false}
              onChange={(id) => set('whose', id || undefined)}
              options={[
                { value: '', label: me.role === 'manager' ? 'My team' : 'Everyone' },
                ...sellers.map(({ id, name }) => ({ value: String(id), label: name })),
              ]}
            />
          )}
          {arrangement}
          <Button type="primary" icon={<Plus size={15} />} onClick={() => add('deal')}>
            Deal
          </Button>
        </div>
      </header>
      <div className="deals-waterline">
        <Waterline
          whose={whose}
          name={chosen ? 'Their quarter' : leads ? 'The team’s quarter' : 'Your quarter'}
        />
      </div>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={10} />
      ) : data.rows.length === 0 ? (
        <Empty title="No open deals here.">
          <Button onClick={() => add('deal')}>Add a deal</Button>
        </Empty>
      ) : (
        <DealGrid
          deals={data.rows}
          names={data.names}
          stages={stages}
          queryKey={query.queryKey}
          listOf={listOf}
        />
      )}
    </>
  );
}

/** The condition for expected close within a column of the grid. */
function closesIn({ from, to }: GridColumn): Condition | undefined {
  if (from && to) return { field: 'closeOn', is: 'between', value: [from, addDays(to, -1)] };
  if (to) return { field: 'closeOn', is: 'before', value: to };
  return from ? { field: 'closeOn', is: 'after', value: addDays(from, -1) } : undefined;
}
