import {
  choiceLabel,
  isSubject,
  type AnyRecord,
  type Field,
  type FieldValue as Value,
  type Names,
} from '@zawn/core';
import { type ReactNode } from 'react';
import { clock, date, money, nearDate, number } from '../frame/format';
import { useOpening } from '../frame/opening';
import { useSession } from '../sessions/session';

interface Props {
  field: Field;
  value: Value;
  record: AnyRecord;
  names: Names;
  /** Whether a link may be followed from here; in a table's row the row itself is what opens. */
  asLink?: boolean;
}

const regions = new Intl.DisplayNames(navigator.language, { type: 'region' });

/** A value as a person reads it: money with its currency, dates in words, links by name. */
export function FieldValue({ field, value, record, names, asLink = false }: Props): ReactNode {
  const { person, stage, pipelines, organisation, today } = useSession();
  const { open } = useOpening();
  if (value === null || value === undefined || value === '') return null;
  switch (field.type) {
    case 'choice':
      return choiceLabel(field, String(value));
    case 'money':
      return money(Number(value), String(record[field.currency ?? ''] ?? organisation.currency));
    case 'percent':
      return `${value} %`;
    case 'number':
      return number(Number(value));
    case 'date':
      return date(String(value));
    case 'dateTime': {
      const instant = String(value);
      return `${nearDate(instant.slice(0, 10), today)}, ${clock(instant, organisation.timeZone)}`;
    }
    case 'country':
      return regions.of(String(value)) ?? String(value);
    case 'yesNo':
      return value ? 'Yes' : 'No';
    case 'web':
      return asLink ? (
        <a href={`https://${value}`} target="_blank" rel="noreferrer">
          {value}
        </a>
      ) : (
        String(value)
      );
    case 'link': {
      const id = Number(value);
      if (field.to === 'person') return person(id)?.name;
      if (field.to === 'stage') return stage(id)?.name;
      if (field.to === 'pipeline') return pipelines.find((pipeline) => pipeline.id === id)?.name;
      if (!isSubject(field.to)) return null;
      const to = field.to;
      const name = names[to]?.[id];
      if (!name) return <span className="second">not yours to see</span>;
      return asLink ? (
        <button type="button" className="link-button" onClick={() => open(to, id)}>
          {name}
        </button>
      ) : (
        name
      );
    }
    default:
      return String(value);
  }
}
