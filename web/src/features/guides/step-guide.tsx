import { useQuery } from '@tanstack/react-query';
import {
  ask,
  canAsk,
  fieldOf,
  fieldsOf,
  itemInWords,
  offered,
  type Guided,
  type GuideItem,
  type RecordOf,
} from '@zawn/core';
import { Button, Checkbox, Input, Select } from 'antd';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { Allowed } from '../../platform/sessions/allowed';
import { allRecords } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { MoveButtons } from '../../platform/frame/move-buttons';
import { keepPositions, useOrder } from '../../platform/frame/use-order';
import { useSession } from '../../platform/sessions/session';
import './guide.css';

type Item = RecordOf<'guideItem'>;
type Kind = GuideItem['kind'];

const ITEMS = { ...ask('guideItem'), sort: [{ field: 'position' }] };

/** The guide items in use, those of a step in their order. */
export function useGuideItems(): readonly Item[] {
  const { data } = useQuery(allRecords(ITEMS));
  return ((data?.rows ?? []) as unknown as Item[]).filter(({ retired }) => retired !== true);
}

interface AboutProps {
  guided: Guided;
  kind: Kind;
  value: string;
  change: (value: string) => void;
}

/** What each kind is about, chosen or written. */
function About({ guided, kind, value, change }: AboutProps) {
  const { catalogue } = useSession();
  if (kind === 'tick')
    return (
      <Input
        value={value}
        maxLength={200}
        placeholder="What is to be ticked"
        aria-label="What is to be ticked"
        onChange={({ target }) => change(target.value)}
      />
    );
  const objects = guided === 'deal' ? (['deal', 'account'] as const) : ([guided] as const);
  const fields = objects.flatMap((object) =>
    fieldsOf(catalogue, object)
      .filter(([, { set = 'edit' }]) => set === 'edit')
      .map(([key, { label }]) => ({
        value: object === 'account' ? `account.${key}` : key,
        label: object === 'account' ? `Account: ${label}` : label,
      })),
  );
  const choices = (key: 'activityKind' | 'role') =>
    offered(fieldOf(catalogue, 'guideItem', key)?.choices).map((choice) => ({
      value: choice.key,
      label: choice.label,
    }));
  const options = kind === 'field' ? fields : choices(kind === 'activity' ? 'activityKind' : 'role');
  return (
    <Select
      value={value || undefined}
      showSearch={{ optionFilterProp: 'label' }}
      options={options}
      placeholder={kind === 'field' ? 'Field' : kind === 'activity' ? 'Type of activity' : 'Role'}
      aria-label="What it is about"
      onChange={change}
    />
  );
}

const partOf = { tick: 'label', field: 'field', activity: 'activityKind', role: 'role' } as const;

interface StepGuideProps {
  /** A stage of deals, or a status of leads. */
  step: { stage: number } | { status: string };
  /** What it is called. */
  name: string;
  items: readonly Item[];
}

/** What is to be found out or done in a step: said here, asked of everything that stands in it. */
export function StepGuide({ step, name, items }: StepGuideProps) {
  const guided = 'stage' in step ? 'deal' : 'lead';
  const { catalogue } = useSession();
  const write = useWrite();
  const [kind, setKind] = useState<Kind>('tick');
  const [about, setAbout] = useState('');
  const [needed, setNeeded] = useState(false);
  // Nobody has a role in the decision before there is a deal.
  const kindsOf = (of: Guided) =>
    offered(fieldOf(catalogue, 'guideItem', 'kind')?.choices).filter(
      ({ key }) => of === 'deal' || key !== 'role',
    );
  const patch = (item: Item, body: Partial<Item>) =>
    write.mutateAsync({ method: 'PATCH', path: `/guide-items/${item.id}`, version: item.version, body });
  const quietly = (work: Promise<unknown>) => void work.catch(() => undefined);
  const [ordered, move] = useOrder(items, (order, swapped) => keepPositions(order, swapped, patch));
  const add = () =>
    write.mutate(
      {
        method: 'POST',
        path: '/guide-items',
        body: {
          ...step,
          kind,
          [partOf[kind]]: about.trim(),
          needed,
          position: (items.at(-1)?.position ?? -1) + 1,
        },
      },
      { onSuccess: () => setAbout('') },
    );
  return (
    <div className="stage-guide">
      <ol>
        {ordered.map((item, at) => {
          const words = itemInWords(item, catalogue);
          return (
            <li key={item.id}>
              <div>
                <span>
                  {words}
                  {!canAsk(item, catalogue) && (
                    <span className="attention"> Its field is not there any more, so it is skipped.</span>
                  )}
                </span>
                <Checkbox
                  checked={item.needed === true}
                  onChange={({ target }) => quietly(patch(item, { needed: target.checked }))}
                >
                  required to go on
                </Checkbox>
                <MoveButtons name={words} at={at} count={ordered.length} move={(step) => move(at, step)} />
                <button
                  type="button"
                  className="icon-button"
                  aria-label={`Ask no more: ${words}`}
                  onClick={() => quietly(patch(item, { retired: true }))}
                >
                  <X size={13} aria-hidden />
                </button>
              </div>
            </li>
          );
        })}
      </ol>
      <Allowed object="guideItem" to="add">
        <form
          className="stage-guide-add"
          onSubmit={(event) => {
            event.preventDefault();
            if (about.trim()) add();
          }}
        >
          <Select
            value={kind}
            options={kindsOf(guided).map(({ key, label }) => ({ value: key as Kind, label }))}
            aria-label={`Kind of what is asked in ${name}`}
            onChange={(next) => {
              setKind(next);
              setAbout('');
            }}
          />
          <About guided={guided} kind={kind} value={about} change={setAbout} />
          <Checkbox checked={needed} onChange={({ target }) => setNeeded(target.checked)}>
            required
          </Checkbox>
          <Button
            htmlType="submit"
            icon={<Plus size={14} />}
            disabled={about.trim() === ''}
            aria-label={`Ask this in ${name}`}
          >
            Add
          </Button>
        </form>
      </Allowed>
    </div>
  );
}
