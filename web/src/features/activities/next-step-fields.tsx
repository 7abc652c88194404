import { type When } from '@zawn/core';
import { Input } from 'antd';
import { useState } from 'react';
import { useWhen, WhenInput } from './when-input';

/** What comes next, as it is being typed. */
export interface NextStepDraft {
  name: string;
  words: string;
  when: When | undefined;
  /** Only one of what and when has been said. */
  isHalf: boolean;
  setName: (name: string) => void;
  setWords: (words: string) => void;
}

/** The state behind the next-step fields. */
export function useNextStepDraft(): NextStepDraft {
  const [name, setName] = useState('');
  const [words, setWords] = useState('');
  const when = useWhen(words);
  return { name, words, when, isHalf: (name.trim() !== '') !== (when !== undefined), setName, setWords };
}

/** The planned activity that a draft stands for; null while what or when is missing. */
export function plannedFrom({ name, when }: NextStepDraft, kind: string) {
  return name.trim() && when ? { name: name.trim(), kind, ...when } : null;
}

/** Asks what comes next and when. */
export function NextStepFields({ draft }: { draft: NextStepDraft }) {
  return (
    <div className="done-next">
      <span className="done-label">Next step</span>
      <Input
        value={draft.name}
        onChange={(event) => draft.setName(event.target.value)}
        placeholder="What comes next"
        aria-label="Next step"
        maxLength={200}
      />
      <WhenInput value={draft.words} onChange={draft.setWords} />
    </div>
  );
}
