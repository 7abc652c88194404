import { choiceLabel, countryName, fieldOf, type Field, type Submission } from '@zawn/core';
import { useSession } from '../../platform/sessions/session';
import './submission-line.css';

/** What somebody sent through a web form: what they wrote, where they came from, what they agreed to. */
export function SubmissionLine({ form, submission }: { form: string; submission: Submission }) {
  const { typed, origin, consent } = submission;
  return (
    <>
      <span>
        <b>Filled in “{form}”</b>
      </span>
      <SentFields typed={typed} origin={origin} consent={consent} />
    </>
  );
}

/** The same as an entry of a timeline. */
export const SubmissionEntry = ({ entry }: { entry: { form: string; submission: Submission } }) => (
  <SubmissionLine form={entry.form} submission={entry.submission} />
);

/** What stands for a typed value where visitors picked rather than typed. */
function inWords(field: Field | undefined, value: string): string {
  return field?.type === 'country' ? countryName(value) : choiceLabel(field, value);
}

/** What was typed, field by field, where the sender came from, and what they agreed to. */
export function SentFields({ typed, origin, consent }: Pick<Submission, 'typed' | 'origin' | 'consent'>) {
  return (
    <>
      <TypedFields typed={typed} />
      <Origin origin={origin} />
      {consent && <span className="second typed-said">Agreed to: “{consent}”</span>}
    </>
  );
}

function TypedFields({ typed }: Pick<Submission, 'typed'>) {
  const { catalogue } = useSession();
  const words = (key: string, value: string) => inWords(fieldOf(catalogue, 'lead', key), value);
  return (
    <dl className="typed">
      {Object.entries(typed).map(([key, value]) => (
        <div key={key}>
          <dt>{fieldOf(catalogue, 'lead', key)?.label ?? key}</dt>
          <dd>
            {typeof value === 'string' ? words(key, value) : value.map((each) => words(key, each)).join(', ')}
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Origin({ origin: { page, referrer, campaign } }: Pick<Submission, 'origin'>) {
  const marks = Object.entries(campaign).map(([name, value]) => `${name.replace('utm_', '')}: ${value}`);
  const said = [page && `on ${page}`, referrer && `coming from ${referrer}`, ...marks].filter(Boolean);
  return said.length > 0 ? <span className="second typed-said">{said.join(' · ')}</span> : null;
}
