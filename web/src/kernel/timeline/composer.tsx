import { type AnyRecord, type SubjectKey } from '@zawn/core';
import { useBrought } from '../shell/feature';

interface Props {
  object: SubjectKey;
  record: AnyRecord;
  /** Which form is open; none leaves only the row of choices. */
  tab: string | undefined;
  setTab: (tab: string | undefined) => void;
}

/** Writes to a record’s timeline: a note, what took place, or what is planned. */
export function Composer({ object, record, tab, setTab }: Props) {
  const forms = useBrought('forms');
  const opened = forms.find(({ key }) => key === tab);
  return (
    <div className="composer">
      <div className="composer-tabs" role="group" aria-label="Write">
        {forms.map(({ key, label, shortcut }) => (
          <button
            key={key}
            type="button"
            aria-pressed={tab === key}
            aria-keyshortcuts={shortcut}
            onClick={() => setTab(tab === key ? undefined : key)}
          >
            {label}
          </button>
        ))}
      </div>
      {opened && (
        <opened.Form key={opened.key} on={{ object, id: record.id }} close={() => setTab(undefined)} />
      )}
    </div>
  );
}
