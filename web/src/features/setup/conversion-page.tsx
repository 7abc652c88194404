import { useQuery } from '@tanstack/react-query';
import {
  ask,
  carriedFields,
  carryOvers,
  conversionParts,
  fieldsOf,
  mayCarry,
  objectType,
  usualCarryOver,
  type CarryOver,
  type ConversionKey,
  type Field,
  type RecordOf,
} from '@zawn/core';
import { Button, Select } from 'antd';
import { allRecords } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import './setup.css';

type Own = RecordOf<'carryOver'>;

const OWN = ask('carryOver');
const NOWHERE = '';

/** Where each field of a lead goes when it is converted: by its key, unless it is said otherwise here. */
export function Component() {
  const { catalogue } = useSession();
  const { data, error, refetch } = useQuery(allRecords(OWN));
  const write = useWrite();
  const own = (data?.rows ?? []) as unknown as Own[];
  const carried = carryOvers(catalogue, own);
  const change = (field: string, now: CarryOver, part: ConversionKey, to: string) => {
    const said = own.find((each) => each.field === field);
    const body = { [part]: to === NOWHERE ? null : to };
    if (said) write.mutate({ method: 'PATCH', path: `/carry-overs/${said.id}`, version: said.version, body });
    else write.mutate({ method: 'POST', path: '/carry-overs', body: { field, ...now, ...body } });
  };
  const optionsFor = (part: ConversionKey, from: Field) => [
    { value: NOWHERE, label: '–' },
    ...fieldsOf(catalogue, part)
      .filter(([, to]) => mayCarry(from, to))
      .map(([key, { label }]) => ({ value: key, label })),
  ];
  return (
    <>
      <header className="page-head">
        <h1>Conversion</h1>
        <span className="page-count">what of a lead goes where</span>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={9} />
      ) : (
        <div className="carry-overs">
          <table>
            <thead>
              <tr>
                <th scope="col">Of the lead</th>
                {conversionParts.map((part) => (
                  <th key={part} scope="col">
                    Into the {objectType(part).label.toLowerCase()}
                  </th>
                ))}
                <th scope="col">
                  <span className="visually-hidden">As usual</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {carriedFields(catalogue).map(([key, from]) => {
                const now = carried.get(key) ?? usualCarryOver(catalogue, key);
                const said = own.find(({ field }) => field === key);
                return (
                  <tr key={key} className={said ? 'carry-own' : ''}>
                    <th scope="row">{from.label}</th>
                    {conversionParts.map((part) => (
                      <td key={part}>
                        <Select
                          size="small"
                          variant="borderless"
                          showSearch={{ optionFilterProp: 'label' }}
                          value={now[part] ?? NOWHERE}
                          options={optionsFor(part, from)}
                          aria-label={`${from.label} into the ${objectType(part).label.toLowerCase()}`}
                          onChange={(to: string) => change(key, now, part, to)}
                        />
                      </td>
                    ))}
                    <td>
                      {said && (
                        <Button
                          type="link"
                          size="small"
                          aria-label={`As usual: ${from.label}`}
                          onClick={() =>
                            write.mutate({
                              method: 'DELETE',
                              path: `/carry-overs/${said.id}`,
                              version: said.version,
                            })
                          }
                        >
                          As usual
                        </Button>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}
