import { useQuery } from '@tanstack/react-query';
import { ask, minorDigits, toMinor, type RecordOf } from '@zawn/core';
import { Button, Select } from 'antd';
import { Trash2 } from 'lucide-react';
import { Allowed } from '../../platform/sessions/allowed';
import { allRecords } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { money } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { organisationOptions } from '../../platform/sessions/organisation-options';
import { KeptNumber, KeptText } from '../../platform/frame/kept-field';

type Format = RecordOf<'currencyFormat'> & { id: number; version: number };

const FORMATS = { ...ask('currencyFormat'), sort: [{ field: 'currency' }] };
const AS_USUAL = '';
const EXAMPLE = 1234.5;

/** How amounts are written, currency by currency, where that is to differ from what is usual. */
export function CurrencyFormats({ reporting }: { reporting: string }) {
  const { rates } = useSession();
  const { data } = useQuery(allRecords(FORMATS));
  const write = useWrite();
  const formats = (data?.rows ?? []) as unknown as Format[];
  const change = ({ id, version }: Format, body: Partial<RecordOf<'currencyFormat'>>) =>
    write.mutate({ method: 'PATCH', path: `/currency-formats/${id}`, version, body });
  const set = new Set(formats.map(({ currency }) => currency));
  const used = new Set([reporting, ...rates.map(({ currency }) => currency)]);
  const [near, far] = [true, false].map((isUsed) =>
    organisationOptions().currencies.filter(({ value }) => !set.has(value) && used.has(value) === isUsed),
  );
  return (
    <section className="currency-formats" aria-label="How amounts are written">
      <h2>How amounts are written</h2>
      {formats.length > 0 && (
        <table>
          <thead>
            <tr>
              <th scope="col">Currency</th>
              <th scope="col">Symbol</th>
              <th scope="col">It stands</th>
              <th scope="col">Decimals</th>
              <th scope="col" className="figure">
                An amount
              </th>
              <th />
            </tr>
          </thead>
          <tbody>
            {formats.map((format) => (
              <tr key={`${format.id} ${format.version}`}>
                <th scope="row">{format.currency}</th>
                <td>
                  <KeptText
                    value={format.symbol}
                    placeholder="as usual"
                    maxLength={6}
                    aria-label={`Symbol of ${format.currency}`}
                    keep={(symbol) => change(format, { symbol })}
                  />
                </td>
                <td>
                  <Select<string>
                    value={format.place ?? AS_USUAL}
                    options={[
                      { value: AS_USUAL, label: 'as usual' },
                      { value: 'before', label: 'before' },
                      { value: 'after', label: 'after' },
                    ]}
                    onChange={(place) =>
                      change(format, {
                        place: place === AS_USUAL ? null : (place as NonNullable<Format['place']>),
                      })
                    }
                    aria-label={`Where the symbol of ${format.currency} stands`}
                  />
                </td>
                <td>
                  <KeptNumber
                    value={format.decimals}
                    placeholder="none"
                    min={0}
                    max={minorDigits(format.currency)}
                    aria-label={`Decimals of ${format.currency}`}
                    keep={(decimals) => change(format, { decimals })}
                  />
                </td>
                <td className="figure">{money(toMinor(EXAMPLE, format.currency), format.currency)}</td>
                <td>
                  <Allowed object="currencyFormat" to="delete">
                    <Button
                      type="text"
                      size="small"
                      icon={<Trash2 size={14} />}
                      aria-label={`Write ${format.currency} as usual`}
                      onClick={() =>
                        write.mutate({
                          method: 'DELETE',
                          path: `/currency-formats/${format.id}`,
                          version: format.version,
                        })
                      }
                    />
                  </Allowed>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="second">
        Amounts are written as is usual in the language of whoever reads them, in whole units. A currency that
        is to be written otherwise:
      </p>
      <Allowed object="currencyFormat" to="add">
        <Select<string>
          showSearch={{ optionFilterProp: 'label' }}
          value={null}
          placeholder="Choose a currency"
          options={[...near, ...far]}
          onChange={(currency) =>
            write.mutate({ method: 'POST', path: '/currency-formats', body: { currency } })
          }
          aria-label="A currency to be written otherwise"
        />
      </Allowed>
    </section>
  );
}
