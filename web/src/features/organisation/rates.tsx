import { useMutation, useQuery } from '@tanstack/react-query';
import {
  ask,
  daysBetween,
  type Question,
  type Rate,
  type RatesRead,
  type EntriesWritten,
  type RecordOf,
  type Written,
} from '@zawn/core';
import { Alert, Button, DatePicker, Input, InputNumber, Select } from 'antd';
import dayjs from 'dayjs';
import { useState } from 'react';
import { Link } from 'react-router';
import { Allowed } from '../../platform/sessions/allowed';
import { call } from '../../platform/api/client';
import { allRecords, figures, RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { FileDrop } from '../../platform/frame/file-drop';
import { counted, date } from '../../platform/frame/format';
import { Skeleton } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import { organisationOptions } from '../../platform/sessions/organisation-options';
import { enteredInWords } from './entered-in-words';
import { asWritten, rateTable } from './rate-table';

const RATES: Question = { ...ask('rate'), sort: [{ field: 'validFrom', descending: true }] };
/** In which currencies amounts stand. */
const IN_USE: Question[] = (['deal', 'lead'] as const).map((object) => ({
  ...ask(object),
  groups: [{ field: 'currency' }],
  measures: [{ as: 'count' }],
}));
const PATHS = ['deals', 'leads'];
/** Days after which a rate is taken to be forgotten. */
const STALE_DAYS = 35;
/** Faults that are shown. */
const FAULTS = 6;

/** What became of rates that were entered, said and undoable. */
function useEnter() {
  const { announce, complain } = useNotices();
  return useMutation({
    mutationFn: (rates: readonly Rate[]) =>
      call<Written<EntriesWritten>>('POST', '/rates/entries', { body: { rates } }),
    onSuccess: ({ unit, label, value }) =>
      announce({ unit, label: enteredInWords(label, value, 'in place of others') }),
    onError: complain,
  });
}

/** Many rates at once: pasted lines, a file, or the reference rates of the European Central Bank. */
function ManyRates({ reporting }: { reporting: string }) {
  const [text, setText] = useState('');
  const enter = useEnter();
  const { data: read } = useQuery({
    queryKey: [RECORDS, 'rates-read', reporting, text],
    queryFn: () => call<RatesRead>('POST', '/rates/read', { body: { text } }),
    enabled: text.trim() !== '',
    placeholderData: (before) => before,
  });
  const shown = text.trim() === '' ? undefined : read;
  const count = shown?.rates.length ?? 0;
  return (
    <div className="many-rates">
      <FileDrop
        onFiles={([file]) => void file.text().then(setText)}
        accept=".csv,.tsv,.txt,.xml"
        label="A file of rates"
        button="Choose a file"
      >
        <Input.TextArea
          value={text}
          onChange={({ target }) => setText(target.value)}
          autoSize={{ minRows: 3, maxRows: 8 }}
          placeholder={
            'Paste lines such as  EUR  2026-11-01  0.8621, or drop a file: CSV, or the European Central Bank’s XML'
          }
          aria-label="Rates to be entered"
        />
      </FileDrop>
      {shown && shown.faults.length > 0 && (
        <Alert
          type="warning"
          title={`${counted(shown.faults.length, 'line')} cannot be understood`}
          description={
            <ul>
              {shown.faults.slice(0, FAULTS).map(({ line, message }) => (
                <li key={`${line} ${message}`}>
                  Line {line}: {message}
                </li>
              ))}
              {shown.faults.length > FAULTS && <li>and {shown.faults.length - FAULTS} more</li>}
            </ul>
          }
        />
      )}
      {count > 0 && (
        <Button
          type="primary"
          loading={enter.isPending}
          onClick={() => enter.mutate(shown?.rates ?? [], { onSuccess: () => setText('') })}
        >
          {shown?.faults.length
            ? `Enter the ${counted(count, 'rate')} that ${count === 1 ? 'was' : 'were'} understood`
            : `Enter ${counted(count, 'rate')}`}
        </Button>
      )}
    </div>
  );
}

/** One rate, by hand. */
function OneRate({ reporting, known }: { reporting: string; known: readonly string[] }) {
  const { today } = useSession();
  const [currency, setCurrency] = useState(known[0]);
  const [validFrom, setValidFrom] = useState(today);
  const [rate, setRate] = useState<number | null>(null);
  const enter = useEnter();
  const isReady = currency !== undefined && rate !== null && rate > 0;
  return (
    <form
      className="one-rate"
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) enter.mutate([{ currency, validFrom, rate }], { onSuccess: () => setRate(null) });
      }}
    >
      <span>1</span>
      <Select
        showSearch
        value={currency}
        placeholder="USD"
        options={organisationOptions().currencies.filter(({ value }) => value !== reporting)}
        onChange={setCurrency}
        aria-label="Currency of the rate"
      />
      <span>=</span>
      <InputNumber<number>
        value={rate}
        min={0}
        controls={false}
        onChange={setRate}
        placeholder="0.8621"
        aria-label={`Rate in ${reporting}`}
      />
      <span>{reporting} from</span>
      <DatePicker
        value={dayjs(validFrom)}
        allowClear={false}
        format="D MMM YYYY"
        onChange={(day) => day && setValidFrom(day.format('YYYY-MM-DD'))}
        aria-label="First day of the rate"
      />
      <Button htmlType="submit" disabled={!isReady} loading={enter.isPending}>
        Enter
      </Button>
    </form>
  );
}

/** What amounts in other currencies are worth in the reporting one, day by day. */
export function Rates({ reporting }: { reporting: string }) {
  const { today } = useSession();
  const { data } = useQuery(allRecords(RATES));
  const { data: inUse } = useQuery(figures(IN_USE));
  const enter = useEnter();
  if (!data) return <Skeleton rows={6} />;
  const { currencies, days } = rateTable(data.rows as unknown as RecordOf<'rate'>[]);
  const latest = (currency: string) => days.find(({ rates }) => rates.has(currency))?.day ?? today;
  const lacking = (inUse ?? []).flatMap((rows, index) =>
    rows
      .map(({ keys, figures: [count] }) => ({ currency: String(keys[0] ?? ''), count, index }))
      .filter(({ currency }) => currency !== '' && currency !== reporting && !currencies.includes(currency)),
  );
  return (
    <section className="rates" aria-label="Rates">
      <h2>Rates</h2>
      {lacking.map(({ currency, count, index }) => (
        <Alert
          key={`${currency} ${index}`}
          type="warning"
          title={
            <>
              <Link
                to={listAddress(
                  PATHS[index],
                  ask(IN_USE[index].object, { field: 'currency', is: 'anyOf', value: [currency] }),
                )}
              >
                {counted(count ?? 0, PATHS[index].slice(0, -1))}
              </Link>{' '}
              stand in {currency}, which has no rate: they are in no sum.
            </>
          }
        />
      ))}
      <Allowed object="rate" to="add">
        <OneRate key={reporting} reporting={reporting} known={currencies} />
        <ManyRates reporting={reporting} />
      </Allowed>
      {days.length > 0 && (
        <div className="rate-table">
          <table>
            <thead>
              <tr>
                <th scope="col">From</th>
                {currencies.map((currency) => {
                  const age = daysBetween(latest(currency), today);
                  return (
                    <th scope="col" key={currency} className="figure">
                      1 {currency}
                      {age > STALE_DAYS && <small className="late"> {age} days old</small>}
                    </th>
                  );
                })}
              </tr>
            </thead>
            <tbody>
              {days.map(({ day, rates }) => (
                <tr key={day}>
                  <th scope="row">{date(day)}</th>
                  {currencies.map((currency) => {
                    const known = rates.get(currency);
                    const value = known && asWritten(known.rate, currency, reporting);
                    return (
                      <td key={`${currency} ${known?.version ?? ''} ${value ?? ''}`}>
                        <InputNumber<number>
                          variant="borderless"
                          controls={false}
                          min={0}
                          defaultValue={value}
                          aria-label={`${currency} from ${date(day)}`}
                          onBlur={({ target }) => {
                            const rate = Number(target.value);
                            if (target.value !== '' && rate > 0 && rate !== value)
                              enter.mutate([{ currency, validFrom: day, rate }]);
                          }}
                          onPressEnter={({ currentTarget }) => currentTarget.blur()}
                        />
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
