import {
  fieldAt,
  figureOperandInWords,
  figureOperators,
  fieldsOf,
  isDated,
  isFieldOperand,
  isGroup,
  isRelated,
  measureInWords,
  operandFits,
  operandInWords,
  operatorsFor,
  pathInWords,
  pickInWords,
  relationInWords,
  relationOf,
  verbAgainstField,
  verbFor,
  verbInWords,
  type Condition,
  type Field,
  type Group,
  type Measure,
  type ObjectKey,
  type Operator,
  type Related,
  type Test,
  type Wording,
} from '@zawn/core';
import { useState } from 'react';
import { begun, conditionOptions, fieldOptions, measureOptions } from './field-options';
import { addLabel, asGroup, type Nesting } from './groups';
import { keepsOperand, NumberPick } from './operand-picker';
import { ValuePicker } from './value-picker';
import { PickToken } from './pick-token';
import { Comma, Said, Token } from './token';

interface PartProps<C extends Condition> {
  object: ObjectKey;
  condition: C;
  onChange: (condition: C) => void;
  onRemove: () => void;
  wording: Wording;
  /** It was just begun: what it still needs opens by itself. */
  isFresh: boolean;
}

const needsNothing = (is: Operator) => is === 'isEmpty' || is === 'isNotEmpty';

function TestPart({ object, condition, onChange, onRemove, wording, isFresh }: PartProps<Test>) {
  const { catalogue } = wording;
  const field = fieldAt(catalogue, object, condition.field);
  const name = pathInWords(catalogue, object, condition.field);
  if (!field || name === undefined) {
    return (
      <span className="part">
        <Token
          kind="field"
          label="Field"
          isMissing
          onRemove={onRemove}
          picker={(close) => <Gone onRemove={onRemove} close={close} />}
        >
          a field that is no longer there
        </Token>
      </span>
    );
  }
  const isMissing = !operandFits(condition.is, field, condition.value);
  const setVerb = (is: Operator) => {
    const value = keepsOperand(field, condition.is, is) ? condition.value : undefined;
    onChange({ field: condition.field, is, ...(value === undefined ? {} : { value }) });
  };
  const verb = (is: Operator) =>
    isFieldOperand(condition.value) ? verbAgainstField(is) : verbFor(is, field);
  const lone = condition.is === 'anyOf' && Array.isArray(condition.value) && condition.value.length === 1;
  return (
    <span className="part">
      <PickToken
        kind="field"
        label="Field"
        onRemove={onRemove}
        list="Field"
        options={fieldOptions(catalogue, object)}
        onPick={(path) => {
          const other = fieldAt(catalogue, object, path) as Field;
          if (path !== condition.field) onChange({ field: path, is: operatorsFor(other.type)[0] });
        }}
      >
        {name}
      </PickToken>
      <PickToken
        kind="verb"
        label="How it is compared"
        onRemove={onRemove}
        list="How it is compared"
        options={operatorsFor(field.type).map((is) => ({ key: is, label: verb(is), value: is }))}
        onPick={(is) => {
          setVerb(is);
        }}
      >
        {lone ? 'is' : verb(condition.is)}
      </PickToken>
      {!needsNothing(condition.is) && (
        <Token
          label={`${name}, value`}
          isMissing={isMissing}
          startsOpen={isFresh}
          onRemove={onRemove}
          picker={(close, typed) => (
            <ValuePicker
              label={`What ${name} ${verb(condition.is)}`}
              object={object}
              path={condition.field}
              field={field}
              is={condition.is}
              value={condition.value}
              onChange={(value) =>
                onChange({
                  field: condition.field,
                  is: condition.is,
                  ...(value === undefined ? {} : { value }),
                })
              }
              close={close}
              typed={typed}
            />
          )}
        >
          {isMissing ? 'which?' : operandInWords(condition, field, wording, object)}
        </Token>
      )}
    </span>
  );
}

function Gone({ onRemove, close }: { onRemove: () => void; close: () => void }) {
  return (
    <div className="pick">
      <p>This field was retired. The rest of the question still runs.</p>
      <button
        type="button"
        className="link-button"
        autoFocus
        onClick={() => {
          close();
          onRemove();
        }}
      >
        Take it out
      </button>
    </div>
  );
}

type Quantity = Pick<Related, 'is' | 'value' | 'pick'> & { figure?: Measure };

const quantities: { key: string; label: string; value: Quantity }[] = [
  { key: 'some', label: 'are', value: { is: 'atLeast', value: 1 } },
  { key: 'none', label: 'are no', value: { is: 'is', value: 0 } },
];

/** The dates of an object by which one of several records is the latest. */
const datesOf = (catalogue: Wording['catalogue'], object: ObjectKey): string[] => [
  'createdAt',
  ...fieldsOf(catalogue, object)
    .filter(([, { type }]) => isDated(type))
    .map(([key]) => key),
];

/** The records that link here: how many, which, and what figure over them. */
function RelatedPart({ object, condition, onChange, onRemove, wording, isFresh }: PartProps<Related>) {
  const { catalogue } = wording;
  const { via, related, figure = { as: 'count' }, is, value, where } = condition;
  const hub = via === undefined ? object : (fieldAt(catalogue, object, via)?.to as ObjectKey);
  const relation = relationOf(catalogue, hub, related);
  if (!relation) {
    return (
      <span className="part">
        <Token
          kind="field"
          label="Records"
          isMissing
          onRemove={onRemove}
          picker={(close) => <Gone onRemove={onRemove} close={close} />}
        >
          records that no longer link here
        </Token>
      </span>
    );
  }
  const what = relationInWords(catalogue, hub, related) ?? related;
  const { pick } = condition;
  const isNone = figure.as === 'count' && is === 'is' && value === 0;
  const isSome = figure.as === 'count' && is === 'atLeast' && value === 1;
  const subject = via === undefined ? 'there' : `the ${pathInWords(catalogue, object, via) ?? via}`;
  const has = (words: string) => (via === undefined ? words : words.replace(/^are/, 'has'));
  const figures = measureOptions(catalogue, relation.object, (measure) =>
    measureInWords(catalogue, relation.object, measure),
  ).filter(({ value: measure }) => measure.as !== 'share' && measure.money === undefined);
  const setQuantity = (quantity: Quantity) => {
    const { figure: _figure, pick: _pick, ...rest } = condition;
    onChange({ ...rest, ...quantity });
  };
  const one = (by: NonNullable<Related['pick']>, isOne: boolean) => {
    const of = via === undefined ? 'its' : `${pathInWords(catalogue, object, via) ?? via}’s`;
    return `${pickInWords(catalogue, relation.object, by, `${of} ${what}`)} is ${isOne ? 'one' : 'none'}`;
  };
  const ones = datesOf(catalogue, relation.object)
    .flatMap((by) => [{ by }, { by, first: true as const }])
    .flatMap((each) =>
      [true, false].map((isOne) => ({
        key: `${JSON.stringify(each)} ${isOne}`,
        label: one(each, isOne),
        value: { pick: each, ...(isOne ? quantities[0] : quantities[1]).value },
        group: 'The latest or the first',
      })),
    );
  const isMoney = figure.of !== undefined && fieldAt(catalogue, relation.object, figure.of)?.type === 'money';
  return (
    <span className="part part-related">
      {!pick && <Said>{subject}</Said>}
      <PickToken
        kind="verb"
        label="How many"
        onRemove={onRemove}
        startsOpen={isFresh}
        list="How many"
        options={[
          ...quantities.map((each) => ({ ...each, label: `${has(each.label)} ${what}` })),
          ...ones,
          ...figures.map(({ key, label, value: measure }) => ({
            key,
            label: `${has('are')} ${what}, compared by the ${label}`,
            value: {
              is: 'atLeast' as const,
              value: measure.as === 'count' ? 2 : 0,
              ...(measure.as === 'count' ? {} : { figure: measure }),
            },
          })),
        ]}
        onPick={(quantity) => {
          setQuantity(quantity);
        }}
      >
        {pick ? one(pick, !isNone) : `${has(isNone ? 'are no' : 'are')} ${what}`}
      </PickToken>
      {where && (
        <>
          <Said>where</Said>
          <GroupPart
            object={relation.object}
            condition={asGroup(where)}
            onChange={(group) => onChange({ ...condition, where: group })}
            onRemove={() => {
              const { where: _where, ...rest } = condition;
              onChange(rest);
            }}
            wording={wording}
            isFresh={false}
            nesting="inline"
          />
        </>
      )}
      {!where && (
        <AddCondition
          object={relation.object}
          wording={wording}
          label="where…"
          onAdd={(inner) => onChange({ ...condition, where: { join: 'all', of: [inner] } })}
        />
      )}
      {!isNone && !isSome && (
        <>
          <Said>, {measureInWords(catalogue, relation.object, figure)}</Said>
          <PickToken
            kind="verb"
            label="How the figure is compared"
            list="How the figure is compared"
            options={figureOperators.map((operator) => ({
              key: operator,
              label: verbInWords(operator),
              value: operator,
            }))}
            onPick={(operator) => {
              const one = typeof value === 'number' ? value : value[0];
              onChange({ ...condition, is: operator, value: operator === 'between' ? [one, one] : one });
            }}
          >
            {verbInWords(is)}
          </PickToken>
          <Token
            label="Figure"
            picker={(close, typed) => (
              <NumberPick
                label="Figure"
                isMoney={isMoney}
                isBetween={is === 'between'}
                value={value}
                onChange={(number) => onChange({ ...condition, value: number })}
                close={close}
                typed={typed}
              />
            )}
          >
            {figureOperandInWords(relation.object, condition, wording)}
          </Token>
        </>
      )}
    </span>
  );
}

/** The place where the sentence goes on: what is typed here becomes the next condition. */
export function AddCondition({
  object,
  wording,
  label,
  startsOpen = false,
  onAdd,
}: {
  object: ObjectKey;
  wording: Wording;
  label: string;
  /** Opens at once: in a group just begun, what it asks comes next. */
  startsOpen?: boolean;
  onAdd: (condition: Condition) => void;
}) {
  const { catalogue } = wording;
  return (
    <PickToken
      kind="add"
      label="Add a condition"
      list="Add a condition"
      placeholder="A field, or records that link here"
      startsOpen={startsOpen}
      options={conditionOptions(catalogue, object)}
      onPick={(start) => {
        const field = 'path' in start ? fieldAt(catalogue, object, start.path) : undefined;
        onAdd(begun(start, field ? operatorsFor(field.type)[0] : 'is'));
      }}
    >
      {label}
    </PickToken>
  );
}

const joins = { all: 'all of', any: 'any of', none: 'none of' } as const;

interface GroupProps extends PartProps<Group> {
  /** `top` reads on in the line, `nested` stands indented below it, `inline` within related records. */
  nesting: Nesting;
}

/** Conditions joined, each to be changed where it stands, with a place to add to them. */
export function GroupPart({ object, condition, onChange, onRemove, wording, nesting, isFresh }: GroupProps) {
  const [fresh, setFresh] = useState<number>();
  const { join, of } = condition;
  const setPart = (index: number, part: Condition) => {
    setFresh(undefined);
    onChange({ ...condition, of: of.map((each, at) => (at === index ? part : each)) });
  };
  const removePart = (index: number) => {
    setFresh(undefined);
    const left = of.filter((_, at) => at !== index);
    if (left.length === 0 && nesting !== 'top') onRemove();
    else onChange({ ...condition, of: left });
  };
  const isBegun = of.length === 0 && (nesting === 'top' ? fresh === 0 : isFresh);
  const saysJoin = nesting === 'nested' || of.length > 1 || join !== 'all';
  const parts = of.map((part, index) => {
    const common = { object, wording, isFresh: fresh === index, onRemove: () => removePart(index) };
    const isLast = index === of.length - 1;
    return (
      <span key={index} className={isGroup(part) ? 'line' : 'run'}>
        {isGroup(part) ? (
          <GroupPart
            {...common}
            condition={part}
            onChange={(next) => setPart(index, next)}
            nesting="nested"
          />
        ) : isRelated(part) ? (
          <RelatedPart {...common} condition={part} onChange={(next) => setPart(index, next)} />
        ) : (
          <TestPart {...common} condition={part} onChange={(next) => setPart(index, next)} />
        )}
        {!isLast && !isGroup(part) && <Comma />}
      </span>
    );
  });
  return (
    <span className={`group group-${nesting}`}>
      {nesting === 'nested' && <Said>and</Said>}
      {saysJoin && (
        <PickToken
          kind="word"
          label="How they are joined"
          {...(nesting === 'top' ? {} : { onRemove })}
          list="How they are joined"
          options={(['all', 'any', 'none'] as const).map((key) => ({
            key,
            label: joins[key],
            value: key,
          }))}
          onPick={(next) => {
            onChange({ ...condition, join: next });
          }}
        >
          {joins[join]}
        </PickToken>
      )}
      {parts}
      <AddCondition
        object={object}
        wording={wording}
        label={addLabel(condition, nesting)}
        // A group that was just begun is gone on with inside it.
        key={isBegun ? 'begun' : 'on'}
        startsOpen={isBegun}
        onAdd={(part) => {
          setFresh(of.length);
          onChange({ ...condition, of: [...of, part] });
        }}
      />
      {of.length === 0 && saysJoin && (
        <span className="said group-empty">asks nothing yet, so it leaves everything as it is</span>
      )}
    </span>
  );
}
