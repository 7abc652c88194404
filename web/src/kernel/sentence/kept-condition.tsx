import { isWholeCondition, type Condition, type ObjectKey } from '@zawn/core';
import { useState } from 'react';
import { useSession } from '../../platform/sessions/session';
import { useWording } from '../questions/use-wording';
import { GroupPart } from './condition';
import { asGroup, fromGroup } from './groups';
import './sentence.css';

const NO_NAMES = {};

interface WrittenProps {
  object: ObjectKey;
  condition: Condition | undefined;
  change: (condition: Condition | undefined) => void;
}

/** A condition written as a sentence, also while a part of it has no value yet. */
export function WrittenCondition({ object, condition, change }: WrittenProps) {
  const wording = useWording(NO_NAMES);
  return (
    <GroupPart
      object={object}
      condition={asGroup(condition)}
      onChange={(next) => change(fromGroup(next))}
      onRemove={() => change(undefined)}
      wording={wording}
      isFresh={false}
      nesting="top"
    />
  );
}

/**
 * A condition that is kept somewhere and written as a sentence: while a part of it has no value yet it stands here only,
 * and is kept as soon as it is whole.
 */
export function KeptCondition({
  object,
  condition,
  keep,
}: {
  object: ObjectKey;
  condition: Condition | undefined;
  keep: (condition: Condition | undefined) => void;
}) {
  const { catalogue } = useSession();
  const [draft, setDraft] = useState<{ where: Condition | undefined; over: string }>();
  const kept = JSON.stringify(condition ?? null);
  // What was kept meanwhile, here or by somebody else, is shown instead of what was begun on something else.
  const shown = draft?.over === kept ? draft.where : condition;
  const set = (where: Condition | undefined) => {
    setDraft({ where, over: kept });
    if (isWholeCondition(catalogue, object, where)) keep(where);
  };
  return <WrittenCondition object={object} condition={shown} change={set} />;
}
