import { useQuery } from '@tanstack/react-query';
import {
  fieldOf,
  objectType,
  type AnyRecord,
  type DuplicatePair,
  type Field,
  type MergeField,
  type MergeKind,
  type MergePreview,
  type Names,
  type ObjectKey,
} from '@zawn/core';
import { Button, Modal, Radio } from 'antd';
import { ArrowLeftRight } from 'lucide-react';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { number } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { FieldValue } from '../../kernel/records/field-value';
import { useSession } from '../../platform/sessions/session';

interface Props {
  object: MergeKind;
  pair: DuplicatePair;
  close: () => void;
  done: () => void;
}

function Value({
  field,
  name,
  record,
  names,
}: {
  field: Field;
  name: string;
  record: AnyRecord;
  names: Names;
}) {
  const value = record[name] ?? null;
  if (value === null) return <span className="second">empty</span>;
  return <FieldValue field={field} value={value} record={record} names={names} path={name} />;
}

/** What hangs on the record that goes, in words: “4 activities and 1 deal move over”. */
function movesInWords(moves: MergePreview['moves']): string {
  const parts = Object.entries(moves).map(([object, count]) => {
    const { label, plural } = objectType(object as ObjectKey);
    return `${number(count)} ${(count === 1 ? label : plural).toLowerCase()}`;
  });
  return parts.length === 0 ? 'Nothing else hangs on the one that goes.' : `${parts.join(', ')} move over.`;
}

/** Two records side by side: which one stays, and whose value of each field they differ in. */
export default function MergeDialog({ object, pair, close, done }: Props) {
  const { catalogue } = useSession();
  const [isSwapped, setSwapped] = useState(false);
  const [take, setTake] = useState<Record<string, MergeField['proposed']>>({});
  const [survivor, other] = isSwapped ? [pair.two, pair.one] : [pair.one, pair.two];
  const { data, error, refetch } = useQuery({
    queryKey: [RECORDS, 'merge', object, survivor.id, other.id],
    queryFn: ({ signal }) =>
      call<MergePreview>('POST', '/duplicates/preview', {
        body: { object, survivor: survivor.id, other: other.id },
        signal,
      }),
  });
  const write = useWrite();
  const merge = () =>
    data &&
    write.mutate(
      {
        method: 'POST',
        path: '/duplicates/merge',
        version: data.survivor.version,
        body: { object, survivor: survivor.id, other: other.id, take },
      },
      { onSuccess: done },
    );
  return (
    <Modal
      open
      width={760}
      title={`Merge two ${objectType(object).plural.toLowerCase()}`}
      okText={`Merge into ${String(survivor.name)}`}
      okButtonProps={{ loading: write.isPending, disabled: !data }}
      onOk={merge}
      onCancel={close}
      destroyOnHidden
    >
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={5} />
      ) : (
        <>
          <table className="merge">
            <thead>
              <tr>
                <th />
                <th scope="col">{String(survivor.name)}, stays</th>
                <th scope="col">{String(other.name)}, goes</th>
              </tr>
            </thead>
            <tbody>
              {data.fields.map(({ key, label, proposed }) => {
                const field = fieldOf(catalogue, object, key) as Field;
                const wanted = take[key] ?? proposed;
                const choose = (whose: MergeField['proposed']) => (
                  <Radio
                    checked={wanted === whose}
                    onChange={() => setTake((before) => ({ ...before, [key]: whose }))}
                    aria-label={`${label} of ${String(whose === 'survivor' ? survivor.name : other.name)}`}
                  >
                    <Value
                      field={field}
                      name={key}
                      record={whose === 'survivor' ? data.survivor : data.other}
                      names={data.names}
                    />
                  </Radio>
                );
                return (
                  <tr key={key}>
                    <th scope="row">{label}</th>
                    <td>{choose('survivor')}</td>
                    <td>
                      {choose('other')}
                      {proposed === 'both' && (
                        <Radio
                          checked={wanted === 'both'}
                          onChange={() => setTake((before) => ({ ...before, [key]: 'both' }))}
                        >
                          both
                        </Radio>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <p className="merge-foot">
            <Button
              size="small"
              icon={<ArrowLeftRight size={13} />}
              onClick={() => {
                setSwapped(!isSwapped);
                setTake({});
              }}
            >
              Keep the other one
            </Button>
            <span>{movesInWords(data.moves)}</span>
          </p>
        </>
      )}
    </Modal>
  );
}
