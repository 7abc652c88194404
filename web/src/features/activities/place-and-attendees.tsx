import { fieldOf, type ActivityPart, type Catalogue } from '@zawn/core';
import { Input } from 'antd';
import { useSession } from '../../platform/sessions/session';
import { SubjectsInput } from '../../kernel/records/subjects-input';
import { type TaskDetails } from './task-details';

/** Whether activities of a type have a place, or others who attend. */
export function hasPart(catalogue: Catalogue, kind: string, part: ActivityPart): boolean {
  const type = fieldOf(catalogue, 'activity', 'kind')?.choices?.find(({ key }) => key === kind);
  return type?.has?.includes(part) ?? false;
}

interface Props {
  kind: string;
  value: TaskDetails;
  onChange: (value: TaskDetails) => void;
  /** What else it is about is asked for as well where nobody attends. */
  isAlsoAbout?: boolean;
}

/** Where something takes place and who else attends, as far as its type has that. */
export function PlaceAndAttendees({ kind, value, onChange, isAlsoAbout }: Props) {
  const { catalogue } = useSession();
  const attends = hasPart(catalogue, kind, 'attendees');
  return (
    <>
      {hasPart(catalogue, kind, 'place') && (
        <Input
          value={value.place}
          onChange={({ target }) => onChange({ ...value, place: target.value })}
          placeholder="Place"
          aria-label="Place"
          maxLength={200}
        />
      )}
      {(attends || isAlsoAbout) && (
        <SubjectsInput
          value={value.alsoAbout}
          onChange={(alsoAbout) => onChange({ ...value, alsoAbout })}
          label={attends ? 'Who else attends' : 'Also about'}
          placeholder={attends ? 'Who else attends' : 'Also about: other people, accounts, deals'}
        />
      )}
    </>
  );
}
