import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import {
  fieldAt,
  type AnyRecord,
  type ImportExample,
  type ImportExamples,
  type ImportBucket,
  type Names,
} from '@zawn/core';
import { type ImportSetup } from '@zawn/core/imports';
import { Button } from 'antd';
import { ArrowRight } from 'lucide-react';
import { call } from '../../platform/api/client';
import { LoadEarlier } from '../../platform/frame/load-earlier';
import { number } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { FieldValue } from '../../kernel/records/field-value';
import { useSession } from '../../platform/sessions/session';
import { bucketInWords } from './outcomes';

interface Props {
  file: string;
  setup: ImportSetup;
  bucket: ImportBucket;
  back: () => void;
}

/** One row of the file with what stands there now and what then. */
function Example({ example, names }: { example: ImportExample; names: Names }) {
  const { catalogue } = useSession();
  const { row, name, why, fields, object } = example;
  const valuesOf = (which: 'before' | 'after') =>
    Object.fromEntries(fields.map((field) => [field.path, field[which]])) as unknown as AnyRecord;
  return (
    <li>
      <p className="example-head">
        <span className="second figure">Row {row}</span> <b className="clip">{name}</b>{' '}
        {why && <span className="second">{why}</span>}
      </p>
      {fields.length > 0 && (
        <dl>
          {fields.map(({ path, before, after }) => {
            const field = fieldAt(catalogue, object, path);
            if (!field) return null;
            const label = path.includes('.')
              ? `${path.split('.')[0]}’s ${field.label.toLowerCase()}`
              : field.label;
            const shown = (value: typeof before, record: AnyRecord) =>
              value === null ? (
                <span className="second">empty</span>
              ) : (
                <FieldValue field={field} value={value} record={record} names={names} path={path} />
              );
            return (
              <div key={path}>
                <dt className="clip">{label}</dt>
                {example.id !== null && (
                  <dd className="example-before clip">{shown(before, valuesOf('before'))}</dd>
                )}
                {example.id !== null && <ArrowRight size={13} aria-label="becomes" role="img" />}
                <dd className="clip">{shown(after, valuesOf('after'))}</dd>
              </div>
            );
          })}
        </dl>
      )}
    </li>
  );
}

/** The records of one bucket, to be looked through before anything is written. */
export function Examples({ file, setup, bucket, back }: Props) {
  const pages = useInfiniteQuery({
    queryKey: ['import examples', file, setup, bucket],
    queryFn: ({ pageParam, signal }) =>
      call<ImportExamples>('POST', '/imports/examples', {
        body: { file, setup, bucket, from: pageParam },
        signal,
      }),
    initialPageParam: 0,
    getNextPageParam: ({ total }, pages) => {
      const seen = pages.reduce((sum, { examples }) => sum + examples.length, 0);
      return seen < total ? seen : undefined;
    },
    placeholderData: keepPreviousData,
  });
  const { data, error, refetch } = pages;
  const label = bucketInWords(bucket, setup.target);
  return (
    <section className="examples" aria-label={`Rows ${label}`}>
      <header>
        <h2>
          {number(data?.pages[0].total ?? 0)} {label}
        </h2>
        <Button size="small" onClick={back}>
          Back to the rows
        </Button>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={6} />
      ) : (
        <ol>
          {data.pages.flatMap(({ examples, names }) =>
            examples.map((example) => <Example key={example.row} example={example} names={names} />),
          )}
          <LoadEarlier pages={pages}>More</LoadEarlier>
        </ol>
      )}
    </section>
  );
}
