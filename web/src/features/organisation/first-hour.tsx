import { useQuery } from '@tanstack/react-query';
import { ask, type Question, type RecordOf } from '@zawn/core';
import { Button } from 'antd';
import { Check } from 'lucide-react';
import { Link } from 'react-router';
import { figures } from '../../platform/api/queries';
import { monthName } from '../../platform/frame/format';
import { DemoCompanyBeside } from '../../platform/sessions/demo-company';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { firstSteps } from './first-steps';
import './organisation.css';

const COUNTED: Question[] = (['target', 'lead', 'contact', 'account', 'form'] as const).map((object) => ({
  ...ask(object),
  measures: [{ as: 'count' }],
}));

/** Whether somebody wrote it, other than Zawn at the start. */
const isOwn = ({ version, createdBy }: RecordOf<'stage'>) => version > 1 || createdBy !== null;

/**
 * The way from nothing to a working organisation, for whoever sets it up: a page of Setup, and on Today until it is put
 * away.
 */
export function FirstHour({ isPage = false }: { isPage?: boolean }) {
  const { policy, people, organisation, stages, stagesOf, pipelinesInUse } = useSession();
  const [, setPreferences] = usePreferences();
  const isWanted = policy.may('setUpMoney');
  const { data } = useQuery({ ...figures(COUNTED), enabled: isWanted });
  if (!isWanted || !data) return null;
  const [targets, leads, contacts, accounts, forms] = data.map(([row]) => row?.figures[0] ?? 0);
  const { currency, fiscalYearStart } = organisation;
  const month = monthName(`2026-${String(fiscalYearStart).padStart(2, '0')}-01`);
  const steps = firstSteps(
    {
      people: people.filter(({ active }) => active).length,
      stages: stagesOf(pipelinesInUse[0]?.id ?? 0).map(({ name }) => name),
      hasOwnStages: stages.some(isOwn),
      targets,
      records: leads + contacts + accounts,
      forms,
    },
    `${currency}, fiscal year from ${month}`,
  );
  const open = steps.filter(({ isDone }) => !isDone);
  if (open.length === 0 && !isPage) return null;
  return (
    <section className="first-hour" aria-label="The first hour">
      {!isPage && (
        <header>
          <h2>The first hour</h2>
          <Button size="small" onClick={() => void setPreferences({ hidesFirstHour: true })}>
            Put away
          </Button>
        </header>
      )}
      <ol>
        {steps.map(({ key, label, about, path, isDone }) => (
          <li key={key} className={isDone ? 'first-step-done' : ''}>
            <span className="first-step-mark" aria-hidden>
              {isDone && <Check size={15} />}
            </span>
            <span>
              <Link to={path}>{label}</Link>
              <small>{about}</small>
            </span>
            {isDone && <span className="visually-hidden">done</span>}
          </li>
        ))}
      </ol>
      <DemoCompanyBeside />
    </section>
  );
}
