import {
  choiceLabel,
  isSubject,
  saidBy,
  type AnyRecord,
  type Field,
  type FieldValue as Value,
  type Names,
} from '@zawn/core';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode } from 'react';
import { savedViews } from '../../platform/api/queries';
import { clock, date, money, nearDate, number, region } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { FileName } from '../files/record-files';
import { useSession } from '../../platform/sessions/session';
import { Tags } from './tags';
import { lazyPart } from '../../platform/frame/lazy-part';

/** Until the formats of all countries are there, the digits do. */
const PhoneNumber = lazyPart(
  async () => (await import('./phone-number')).default,
  ({ phone }) => phone,
);

interface Props {
  field: Field;
  value: Value;
  record: AnyRecord;
  names: Names;
  /** The path the value lies at, when it lies behind a link. */
  path?: string;
  /** Whether a link may be followed from here; in a table's row the row itself is what opens. */
  asLink?: boolean;
}

/** The path of a field that stands beside another. */
const beside = (path: string, key: string) =>
  path.includes('.') ? `${path.slice(0, path.lastIndexOf('.'))}.${key}` : key;

/** A value as a person reads it: money with its currency, dates in words, links by name. */
export function FieldValue({ field, value, record, names, path = '', asLink = false }: Props): ReactNode {
  const { catalogue, person, stage, pipelines, organisation, timeZone, today, dayOf } = useSession();
  const { open } = useOpening();
  const { data: saved } = useQuery({ ...savedViews, enabled: field.type === 'lists' });
  if (value === null || value === undefined || value === '') return null;
  if (field.isOf) {
    const said = saidBy(catalogue, { field, value }, (key) => record[beside(path, key)]);
    return said && <FieldValue {...said} record={record} names={names} path={path} asLink={asLink} />;
  }
  switch (field.type) {
    case 'choices':
      return (value as readonly string[]).map((key) => choiceLabel(field, key)).join(', ');
    case 'tags':
      return <Tags tags={value as readonly string[]} />;
    case 'lists':
      return (value as readonly number[])
        .map((id) => saved?.lists.find((list) => list.id === id)?.name)
        .filter(Boolean)
        .join(', ');
    case 'choice':
      return choiceLabel(field, String(value));
    case 'money':
      return money(
        Number(value),
        String(record[beside(path, field.currency ?? '')] ?? organisation.currency),
      );
    case 'percent':
      return `${Number(value)} %`;
    case 'number':
      return number(Number(value));
    case 'date':
      return date(String(value));
    case 'dateTime': {
      const instant = String(value);
      return `${nearDate(dayOf(instant), today)}, ${clock(instant, timeZone)}`;
    }
    case 'country':
      return region(String(value));
    case 'yesNo':
      return value ? 'Yes' : 'No';
    case 'phone':
      return <PhoneNumber phone={String(value)} asLink={asLink} />;
    case 'web':
      return asLink ? (
        <a href={`https://${String(value)}`} target="_blank" rel="noreferrer">
          {String(value)}
        </a>
      ) : (
        String(value)
      );
    case 'link': {
      const id = Number(value);
      if (field.to === 'person') return person(id)?.name;
      if (field.to === 'stage') return stage(id)?.name;
      if (field.to === 'pipeline') return pipelines.find((pipeline) => pipeline.id === id)?.name;
      if (field.to === 'file') return <FileName id={id} name={names.file?.[id]} asLink={asLink} />;
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
