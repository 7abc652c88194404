import { useQuery } from '@tanstack/react-query';
import {
  combined,
  designOf,
  isCombinable,
  plainDesign,
  readyMadeFor,
  type Design,
  type Question,
} from '@zawn/core';
import { savedViews } from '../../platform/api/queries';
import { type Option } from '../sentence/options';
import { PickList } from '../sentence/pick-list';
import { Token } from '../sentence/token';
import { useState } from 'react';

type How = 'widen' | 'narrow' | 'replace';

const ways: Option<How>[] = [
  { key: 'widen', label: 'add the results of…', value: 'widen' },
  { key: 'narrow', label: 'keep only those also in…', value: 'narrow' },
  { key: 'replace', label: 'start over from…', value: 'replace' },
];

function Picker({
  design,
  onChange,
  close,
  typed,
}: {
  design: Design;
  onChange: (design: Design) => void;
  close: () => void;
  typed: string;
}) {
  const [how, setHow] = useState<How>();
  const { data } = useQuery(savedViews);
  const { object } = design.question;
  const all: Option<Question>[] = [
    ...(data?.views ?? []).flatMap((view) => {
      const saved = view.object === object ? designOf(view) : undefined;
      return saved
        ? [{ key: `view-${view.id}`, label: view.name, value: saved.question, group: 'Views' }]
        : [];
    }),
    ...(data?.lists ?? [])
      .filter((list) => list.object === object)
      .map((list) => ({
        key: `list-${list.id}`,
        label: list.name,
        value: plainDesign(object, { field: 'lists', is: 'anyOf', value: [list.id] }).question,
        group: 'Lists',
      })),
    ...readyMadeFor(object).map(({ key, name, design: { question } }) => ({
      key,
      label: name,
      value: question,
      group: 'Ready-made',
    })),
  ];
  const options = all.filter(({ value }) => how === 'replace' || isCombinable(design.question, value));
  if (!how) return <PickList label="Combine" typed={typed} options={ways} onPick={setHow} />;
  return (
    <>
      <p className="pick-step">{ways.find(({ value }) => value === how)?.label}</p>
      <PickList
        key={how}
        label="View or list"
        options={options}
        nothing="No other view asks about the same day."
        onPick={(other) => {
          onChange({ ...design, question: combined(design.question, other, how) });
          close();
        }}
      />
    </>
  );
}

/** Widens what is shown by another question's results, narrows it to those both find, or starts over. */
export function Combine({ design, onChange }: { design: Design; onChange: (design: Design) => void }) {
  return (
    <Token
      kind="add"
      label="Combine with another view or list"
      picker={(close, typed) => <Picker design={design} onChange={onChange} close={close} typed={typed} />}
    >
      combined with…
    </Token>
  );
}
