import { type RecordOf } from '@zawn/core';
import { Select } from 'antd';
import { useSession } from '../../platform/sessions/session';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';

type Recipient = Pick<RecordOf<'form'>, 'to' | 'person'>;

interface Props extends Recipient {
  onChange: (recipient: Recipient) => void;
  label: string;
}

const RULES = 'rules';

/** Who gets the leads that come in one way: one person, or whoever the assignment rules say. */
export function GoesTo({ to, person, onChange, label }: Props) {
  const { people } = useSession();
  return (
    <Select<number | typeof RULES>
      value={to === 'person' && person !== null ? person : RULES}
      options={[
        { value: RULES, label: 'Whoever the assignment rules say' },
        ...peopleToChoose(people, person),
      ]}
      showSearch={{ optionFilterProp: 'label' }}
      onChange={(value) =>
        onChange(value === RULES ? { to: 'rules', person: null } : { to: 'person', person: value })
      }
      aria-label={label}
    />
  );
}
