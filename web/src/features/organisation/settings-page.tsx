import { useQuery } from '@tanstack/react-query';
import { fiscalYearLabel, wordRulesOf, type AnyRecord, type LetGo, type RecordOf } from '@zawn/core';
import { App, Select } from 'antd';
import { call } from '../../platform/api/client';
import { oneRecord, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { counted, nearDate, number } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { organisationOptions } from '../../platform/sessions/organisation-options';
import { CurrencyFormats } from './currency-formats';
import { DealNumbers } from './deal-numbers';
import { Rates } from './rates';
import { Setting } from './setting';
import { KeptName } from '../../platform/frame/kept-field';
import './organisation.css';

type Settings = RecordOf<'organisation'>;

/** The fiscal year of now by each of its names. */
const fiscalYearNames = (fiscalYearStart: number, today: string) =>
  (['both', 'begins', 'ends'] as const).map((fiscalYearName) => ({
    value: fiscalYearName,
    label: fiscalYearLabel(today, { fiscalYearStart, weekStart: 1, fiscalYearName }),
  }));

/** What holds for everybody: name, country, calendar and reporting currency. Each is kept as soon as it is chosen. */
function Settings({ settings }: { settings: Settings }) {
  const { today } = useSession();
  const { modal } = App.useApp();
  const write = useWrite();
  const { countries, currencies, months, timeZones, weekDays } = organisationOptions();
  const change = (body: Partial<Settings>) =>
    write.mutate({ method: 'PATCH', path: '/organisation/1', version: settings.version, body });
  const report = (currency: string) =>
    void modal.confirm({
      title: `Report everything in ${currency}?`,
      content: `The rates are turned round, so that each amount stays worth what it is, and every figure is computed anew. It can be undone.`,
      okText: `Report in ${currency}`,
      onOk: () => change({ currency }),
    });
  const search = { showSearch: { optionFilterProp: 'label' as const } };
  return (
    <section className="settings" aria-label="Organisation">
      <Setting label="Name">
        {(id) => <KeptName id={id} value={settings.name} maxLength={200} keep={(name) => change({ name })} />}
      </Setting>
      <Setting label="Country">
        {(id) => (
          <Select
            id={id}
            {...search}
            value={settings.country}
            options={countries}
            onChange={(country: string) => change({ country })}
          />
        )}
      </Setting>
      <Setting label="Time zone">
        {(id) => (
          <Select
            id={id}
            {...search}
            value={settings.timeZone}
            options={timeZones}
            onChange={(timeZone: string) => change({ timeZone })}
          />
        )}
      </Setting>
      <Setting label="Fiscal year begins in">
        {(id) => (
          <Select
            id={id}
            value={settings.fiscalYearStart}
            options={months}
            onChange={(fiscalYearStart: number) => change({ fiscalYearStart })}
          />
        )}
      </Setting>
      {settings.fiscalYearStart !== 1 && (
        <Setting label="A fiscal year is called">
          {(id) => (
            <Select
              id={id}
              value={settings.fiscalYearName ?? 'both'}
              options={fiscalYearNames(settings.fiscalYearStart, today)}
              onChange={(fiscalYearName) => change({ fiscalYearName })}
            />
          )}
        </Setting>
      )}
      <Setting label="Week begins on">
        {(id) => (
          <Select
            id={id}
            value={settings.weekStart}
            options={weekDays}
            onChange={(weekStart: number) => change({ weekStart })}
          />
        )}
      </Setting>
      <Setting label="Reporting currency">
        {(id) => (
          <Select id={id} {...search} value={settings.currency} options={currencies} onChange={report} />
        )}
      </Setting>
    </section>
  );
}

const words = [
  {
    key: 'wordsYear',
    label: '“This year” is',
    choices: [
      ['fiscal', 'the fiscal year'],
      ['calendar', 'the calendar year'],
    ],
  },
  {
    key: 'wordsDate',
    label: '“10/12” is',
    choices: [
      ['dayFirst', '10 December'],
      ['monthFirst', '12 October'],
    ],
  },
  {
    key: 'wordsCustomers',
    label: '“Customers” are',
    choices: [
      ['called', 'accounts that are called so'],
      ['won', 'accounts with a won deal'],
    ],
  },
  {
    key: 'wordsWith',
    label: '“Deals with Nora” are',
    choices: [
      ['owner', 'those that she owns'],
      ['did', 'those with something that she did'],
    ],
  },
] as const;

const ruleOf = {
  wordsYear: 'year',
  wordsDate: 'date',
  wordsCustomers: 'customers',
  wordsWith: 'with',
} as const;

/** How typed questions read words that can mean two things; the other reading is offered each time. */
function Words({ settings }: { settings: Settings }) {
  const write = useWrite();
  const rules = wordRulesOf(settings);
  return (
    <section className="kept" aria-label="Words of typed questions">
      <h2>In typed questions</h2>
      {words.map(({ key, label, choices }) => (
        <Setting key={key} label={label}>
          {(id) => (
            <Select
              id={id}
              value={rules[ruleOf[key]]}
              options={choices.map(([value, name]) => ({ value: value, label: name }))}
              onChange={(value) =>
                write.mutate({
                  method: 'PATCH',
                  path: '/organisation/1',
                  version: settings.version,
                  body: { [key]: value },
                })
              }
            />
          )}
        </Setting>
      ))}
    </section>
  );
}

const DAYS = [30, 90, 180, 365, 730, 1825];

/** For how long what is kept; the nights let go of what is older. */
function Kept({ settings }: { settings: Settings }) {
  const write = useWrite();
  const { data } = useQuery({
    queryKey: [RECORDS, 'retention'],
    queryFn: () => call<{ rows: LetGo[] }>('GET', '/retention'),
  });
  const { dayOf, today } = useSession();
  const kept = [
    { key: 'keepBin', label: 'What was deleted' },
    { key: 'keepNotices', label: 'Notices' },
    { key: 'keepSubmissions', label: 'What forms brought' },
    { key: 'keepSignIns', label: 'Sign-ins' },
    { key: 'keepRecordings', label: 'Recordings of calls' },
  ] as const;
  const options = [
    { value: 0, label: 'for good' },
    ...DAYS.map((days) => ({
      value: days,
      label: days < 365 ? `${days} days` : counted(Math.round(days / 365), 'year'),
    })),
  ];
  return (
    <section className="kept" aria-label="How long what is kept">
      <h2>Kept for</h2>
      {kept.map(({ key, label }) => (
        <Setting key={key} label={label}>
          {(id) => (
            <Select<number>
              id={id}
              value={settings[key] ?? 0}
              options={
                options.some(({ value }) => value === (settings[key] ?? 0))
                  ? options
                  : [...options, { value: Number(settings[key]), label: `${settings[key]} days` }]
              }
              onChange={(days) =>
                write.mutate({
                  method: 'PATCH',
                  path: '/organisation/1',
                  version: settings.version,
                  body: { [key]: days === 0 ? null : days },
                })
              }
            />
          )}
        </Setting>
      ))}
      <p className="second">
        {(data?.rows.length ?? 0) === 0
          ? 'Nothing was deleted by age yet.'
          : `Let go of: ${data?.rows
              .slice(0, 4)
              .map(({ at, what, count }) => `${number(count)} ${what}, ${nearDate(dayOf(at), today)}`)
              .join('; ')}.`}
      </p>
    </section>
  );
}

/** The organisation’s money and calendar. */
export function Component() {
  const { data, error, refetch } = useQuery(oneRecord('organisation', 1));
  const settings = data?.record as (AnyRecord & Settings) | undefined;
  return (
    <>
      <header className="page-head">
        <h1>Money and calendar</h1>
        <span className="page-count">for everybody; kept as soon as it is chosen</span>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !settings ? (
        <Skeleton rows={7} />
      ) : (
        <div className="organisation-page">
          <div className="settings-and-kept">
            <Settings settings={settings} />
            <DealNumbers settings={settings} />
            <Words settings={settings} />
            <Kept settings={settings} />
          </div>
          <div className="rates-and-formats">
            <Rates reporting={settings.currency} />
            <CurrencyFormats reporting={settings.currency} />
          </div>
        </div>
      )}
    </>
  );
}
