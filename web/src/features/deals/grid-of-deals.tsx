import { useQuery } from '@tanstack/react-query';
import {
  addDays,
  allOf,
  ask,
  completeQuestion,
  isGroup,
  isRelated,
  ME,
  ownersOf,
  whoseWork,
  type Condition,
  type DealGridRequest,
  type Design,
  type GridColumn,
  type Test,
} from '@zawn/core';
import { Button, Segmented } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { dealGridOf } from '../../platform/api/queries';
import { Waterline } from '../forecast/waterline';
import { useAdd } from '../../kernel/shell/adding';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { Unrated } from '../../kernel/questions/unrated';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { usePhone } from '../../platform/frame/use-phone';
import { DealGrid, type Arrangement } from './deal-grid';
import './deals.css';

const OPEN: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };

/** Whose deals a question asks for, when it says so for all of them. */
function ownersIn(where: Condition | undefined): Test | undefined {
  const parts = where === undefined ? [] : isGroup(where) && where.join === 'all' ? where.of : [where];
  return parts
    .filter((part): part is Test => !isGroup(part) && !isRelated(part))
    .find(({ field, is }) => field === 'owner' && is === 'anyOf');
}

/** The one member an *any of* names; undefined when it names several. */
function loneMember({ value }: Test): unknown {
  const members: readonly unknown[] = Array.isArray(value) ? value : [];
  return members.length === 1 ? members[0] : undefined;
}

/** The condition for expected close within a column of the grid. */
function closesIn({ from, to }: GridColumn): Condition | undefined {
  if (from && to) return { field: 'closeOn', is: 'between', value: [from, addDays(to, -1)] };
  if (to) return { field: 'closeOn', is: 'before', value: to };
  return from ? { field: 'closeOn', is: 'after', value: addDays(from, -1) } : undefined;
}

/** Strips of a cell at first, so many more with each look further, and the most of one cell. */
const EACH = 3;
const FURTHER = 30;
const MOST = 500;

interface Props {
  design: Design;
  /** Hears how many deals the grid shows. */
  onTotal: (total: number | undefined) => void;
}

/** The open deals of a question as the grid of stages and months, under the waterline of those they belong to. */
export function GridOfDeals({ design, onTotal }: Props) {
  const { me, policy, pipelinesInUse, pipelinesOffered, stagesOf, person } = useSession();
  const [parameters, setParameters] = useSearchParams();
  const add = useAdd();
  const isPhone = usePhone();
  const [{ dealArrangement: arrangement = 'months' }, setPreferences] = usePreferences();
  const { where } = design.question;
  const pipeline = Number(parameters.get('pipeline') ?? pipelinesOffered[0]?.id);
  const asked = useMemo(
    () => allOf(where, OPEN, { field: 'pipeline', is: 'anyOf', value: [pipeline] }),
    [where, pipeline],
  );
  const { catalogue } = useSession();
  const known = useMemo(
    () => completeQuestion(catalogue, { ...ask('deal'), ...(where ? { where } : {}) }).where,
    [catalogue, where],
  );
  // Which cells were opened further belongs to one question.
  const [opened, setOpened] = useState<{ of: string; more: DealGridRequest['more'] }>({ of: '', more: [] });
  const of = JSON.stringify([pipeline, known ?? null]);
  const more = opened.of === of ? opened.more : [];
  const query = dealGridOf({ pipeline, ...(known ? { where: known } : {}), each: EACH, more });
  const { data, error, refetch } = useQuery({ ...query, enabled: pipelinesInUse.length > 0 });
  const total = data?.cells.reduce((sum, { count }) => sum + count, 0);
  useEffect(() => onTotal(total), [onTotal, total]);
  useEffect(() => () => onTotal(undefined), [onTotal]);
  const openMore = (stage: number, column: string, shown: number) => {
    const others = more.filter((cell) => cell.stage !== stage || cell.column !== column);
    setOpened({ of, more: [...others, { stage, column, count: Math.min(shown + FURTHER, MOST) }] });
  };
  const stages = useMemo(() => stagesOf(pipeline), [stagesOf, pipeline]);
  const owners = ownersIn(where);
  const whose = useMemo<Condition | undefined>(() => {
    return owners ?? ownersOf(policy, 'deal');
  }, [owners, policy]);
  const single = owners ? loneMember(owners) : undefined;
  const name =
    whoseWork(policy, 'deal') === 'own' || single === ME || single === me.id
      ? 'Your quarter'
      : typeof single === 'number'
        ? `${person(single)?.name ?? 'Their'}’s quarter`
        : 'The team’s quarter';
  const listOf = (stage: number | undefined, column: GridColumn | undefined) =>
    listAddress('deals', {
      version: 1,
      object: 'deal',
      where: allOf(
        asked,
        stage === undefined ? undefined : { field: 'stage', is: 'anyOf', value: [stage] },
        column && closesIn(column),
      ),
    });
  return (
    <>
      <div className="deals-waterline">
        <Waterline whose={whose} name={name} />
        {pipelinesInUse.length > 1 && (
          <Segmented
            value={pipeline}
            options={pipelinesInUse.map(({ id, name: its }) => ({ value: id, label: its }))}
            onChange={(id) =>
              setParameters((before) => {
                before.set('pipeline', String(id));
                return before;
              })
            }
            aria-label="Pipeline"
          />
        )}
        {!isPhone && (
          <Segmented<Arrangement>
            className="grid-arrangement"
            value={arrangement}
            options={[
              { value: 'months', label: 'By month' },
              { value: 'stages', label: 'Stages side by side' },
            ]}
            onChange={(next) => void setPreferences({ dealArrangement: next })}
            aria-label="Arrangement"
          />
        )}
        <Unrated of="the grid" parts={[[ask('deal', asked), data?.unrated]]} />
      </div>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={10} />
      ) : total === 0 ? (
        <Empty title="No open deals here.">
          {policy.allows('deal', 'add') && <Button onClick={() => add('deal')}>Add a deal</Button>}
        </Empty>
      ) : (
        <DealGrid
          cells={data.cells}
          more={openMore}
          deals={data.rows}
          names={data.names}
          stages={stages}
          queryKey={query.queryKey}
          listOf={listOf}
          arrangement={arrangement}
        />
      )}
    </>
  );
}
