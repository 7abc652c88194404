import { isSubject, objectType, withoutRate, type Question } from '@zawn/core';
import { Link } from 'react-router';
import { counted } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { listAddress } from './list-address';
import './unrated.css';

interface Props {
  /** Questions whose sums are shown, each with how many of its records have no rate. */
  parts: readonly (readonly [question: Question, unrated: number | undefined])[];
  /** What the sums are of, where several stand near each other. */
  of?: string;
}

/** Which records are in none of the sums shown, as their currency has no rate; nothing when there are none. */
export function Unrated({ parts, of }: Props) {
  const { organisation, rates } = useSession();
  const rated = [organisation.currency, ...rates.map(({ currency }) => currency)];
  const lacking = parts.filter(([, unrated]) => unrated);
  if (lacking.length === 0) return null;
  return (
    <p className="unrated">
      Not in the sums{of && ` of ${of}`}, as the currency has no rate:{' '}
      {lacking.map(([question, unrated = 0], index) => {
        const { label, plural, path } = objectType(question.object);
        const words = counted(unrated, label.toLowerCase(), plural.toLowerCase());
        return (
          <span key={JSON.stringify(question)}>
            {index > 0 && ', '}
            {isSubject(question.object) ? (
              <Link to={listAddress(path, withoutRate(question, rated))}>{words}</Link>
            ) : (
              words
            )}
          </span>
        );
      })}
      .
    </p>
  );
}
