import { useQuery } from '@tanstack/react-query';
import { fieldAt, type BulkPreview, type BulkRequest } from '@zawn/core';
import { Alert } from 'antd';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { number } from '../../platform/frame/format';
import { FieldValue } from '../../kernel/records/field-value';
import { useSession } from '../../platform/sessions/session';
import './bulk.css';

/** What would happen: the count, and three records before and after. */
export function BulkForecast({ request }: { request: BulkRequest }) {
  const { catalogue } = useSession();
  const { data, error } = useQuery({
    queryKey: [RECORDS, 'bulk', request],
    queryFn: ({ signal }) => call<BulkPreview>('POST', '/bulk/preview', { body: request, signal }),
    placeholderData: (before) => before,
    retry: false,
  });
  if (error) return <Alert type="warning" title={error.message} />;
  if (!data) return <p className="second">Looking…</p>;
  const shown = (example: BulkPreview['examples'][number], side: 'before' | 'after') =>
    Object.entries(example[side]).map(([key, value]) => {
      const field = fieldAt(catalogue, request.object, key);
      const record = Object.assign(
        { version: 0, createdAt: '', createdBy: null, updatedAt: '', id: example.id },
        example[side],
      );
      return (
        <span key={key}>
          {value === null || !field ? (
            <span className="second">empty</span>
          ) : (
            <FieldValue field={field} value={value} record={record} names={data.names} />
          )}
        </span>
      );
    });
  return (
    <div className="bulk-preview">
      <p>
        <b className="bulk-count">{number(data.count)}</b> {data.count === 1 ? 'record' : 'records'}. The
        first of them:
      </p>
      <table>
        <tbody>
          {data.examples.map((example) => (
            <tr key={example.id}>
              <th scope="row" className="clip">
                {example.name}
              </th>
              {example.refused ? (
                <td className="attention" colSpan={2}>
                  stays as it is: {example.refused}
                </td>
              ) : (
                <>
                  <td>{shown(example, 'before')}</td>
                  <td>{Object.keys(example.after).length > 0 && <>→ {shown(example, 'after')}</>}</td>
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
