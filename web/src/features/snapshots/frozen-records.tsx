import { useQuery } from '@tanstack/react-query';
import {
  catalogueThen,
  columnLabel,
  fieldAt,
  isSubject,
  objectType,
  type AnyRecord,
  type FrozenRecordsRequest,
} from '@zawn/core';
import { Button } from 'antd';
import { useState } from 'react';
import { FieldValue } from '../../kernel/records/field-value';
import { counted, number } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { BesidePanel } from '../reports/beside-panel';
import { frozenRecords } from './queries';

interface Props {
  snapshot: number;
  place: FrozenRecordsRequest['place'];
  close: () => void;
}

/** Records on one page. */
const PAGE = 200;

/** The records behind a figure of a snapshot, as they read then. A name opens the record as it is today. */
export function FrozenRecords({ snapshot, place, close }: Props) {
  const { catalogue: now } = useSession();
  const { open } = useOpening();
  // Behind another figure it begins anew.
  const [page, setPage] = useState({ of: place, offset: 0 });
  const offset = page.of === place ? page.offset : 0;
  const setOffset = (next: number) => setPage({ of: place, offset: next });
  const { data, error, refetch } = useQuery(frozenRecords(snapshot, place, offset));
  const { object } = data ?? {};
  const catalogue = data && catalogueThen(data, now);
  const type = object && objectType(object);
  return (
    <BesidePanel
      label="Records behind the figure"
      heading={
        data && type
          ? `${counted(data.total, type.label.toLowerCase(), type.plural.toLowerCase())}, as they were`
          : 'Records'
      }
      of={place}
      close={close}
    >
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data || !object || !catalogue || !type ? (
        <Skeleton rows={8} />
      ) : (
        <div className="frozen-records" tabIndex={0} role="region" aria-label="Frozen records">
          <table>
            <thead>
              <tr>
                <th scope="col">{type.label}</th>
                {data.columns.map((path) =>
                  path === type.nameField ? null : (
                    <th key={path} scope="col">
                      {columnLabel(catalogue, { version: 1, object }, path)}
                    </th>
                  ),
                )}
              </tr>
            </thead>
            <tbody>
              {data.rows.map(({ id, name, values, isThere }) => {
                const record = Object.fromEntries([
                  ['id', id],
                  ...data.columns.map((path, index) => [path, values[index]]),
                ]) as AnyRecord;
                return (
                  <tr key={id}>
                    <th scope="row">
                      {isThere && isSubject(object) ? (
                        <button type="button" className="link-button" onClick={() => open(object, id)}>
                          {name}
                        </button>
                      ) : (
                        <>
                          {name}
                          {!isThere && <span className="second"> no longer to be opened</span>}
                        </>
                      )}
                    </th>
                    {data.columns.map((path, index) => {
                      if (path === type.nameField) return null;
                      const field = fieldAt(catalogue, object, path);
                      return (
                        <td key={path}>
                          {field && (
                            <FieldValue
                              field={field}
                              value={values[index]}
                              record={record}
                              names={data.names}
                              path={path}
                            />
                          )}
                        </td>
                      );
                    })}
                  </tr>
                );
              })}
            </tbody>
          </table>
          {data.total > PAGE && (
            <p className="frozen-pages">
              <Button
                type="text"
                disabled={offset === 0 || undefined}
                onClick={() => setOffset(offset - PAGE)}
              >
                Before
              </Button>
              <span className="second">
                {number(offset + 1)} to {number(Math.min(offset + PAGE, data.total))} of {number(data.total)}
              </span>
              <Button
                type="text"
                disabled={offset + PAGE >= data.total || undefined}
                onClick={() => setOffset(offset + PAGE)}
              >
                Next
              </Button>
            </p>
          )}
        </div>
      )}
    </BesidePanel>
  );
}
