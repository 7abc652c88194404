import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { ask, type PhoneCall } from '@zawn/core';
import { allRecords, timelineOf } from '../../platform/api/queries';
import { money, nearDate } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { useSession } from '../../platform/sessions/session';
import { useBrought } from '../../kernel/shell/feature';
import { useOpenOn } from '../activities/use-open-on';

/** What was said and written with somebody, as far as it helps now. */
const SHOWN = 3;
const EXCHANGES = 'activity,note,mail';

type On = NonNullable<PhoneCall['on']>;

/** The last exchanges with whom a call is with, the latest first, and the deals that are open there. */
export function LastExchanges({ on: { object, id }, without }: { on: On; without: number | null }) {
  const { today, dayOf } = useSession();
  const kinds = useBrought('timeline');
  const { data } = useInfiniteQuery(timelineOf(object, id, { kinds: EXCHANGES }));
  const entries = (data?.pages[0]?.rows ?? [])
    .filter(({ kind, id: entry }) => kind !== 'activity' || entry !== without)
    .slice(0, SHOWN);
  return (
    <div className="call-before">
      <h3>Last exchanges</h3>
      {entries.length === 0 && <p className="second">{data ? 'Nothing yet.' : ''}</p>}
      <ul>
        {entries.map((entry) => {
          const { Line, Sign } = kinds.find(({ kind }) => kind === entry.kind) ?? {};
          return (
            Line &&
            Sign && (
              <li key={`${entry.kind} ${entry.id}`}>
                <span className="second">{nearDate(dayOf(entry.at), today)}</span>
                <Sign entry={entry} />
                <div>
                  <Line entry={entry} />
                </div>
              </li>
            )
          );
        })}
      </ul>
      <Planned on={{ object, id }} without={without} />
      <OpenDeals on={{ object, id }} />
    </div>
  );
}

/** What is planned with them beside this call. */
function Planned({ on: { object, id }, without }: { on: Omit<On, 'name'>; without: number | null }) {
  const { today } = useSession();
  const planned = (useOpenOn(object, id) ?? []).filter((each) => each.id !== without);
  if (planned.length === 0) return null;
  return (
    <>
      <h3>Planned</h3>
      <ul>
        {planned.slice(0, SHOWN).map((each) => (
          <li key={each.id}>
            <span className="second">{nearDate(String(each.dueOn), today)}</span>
            <span className="clip">{String(each.name)}</span>
          </li>
        ))}
      </ul>
    </>
  );
}

function OpenDeals({ on: { object, id } }: { on: Omit<On, 'name'> }) {
  const { stage } = useSession();
  const { open } = useOpening();
  const question = {
    ...ask(
      'deal',
      { field: object === 'deal' ? 'id' : object, is: 'anyOf', value: [id] },
      { field: 'outcome', is: 'anyOf', value: ['open'] },
    ),
    sort: [{ field: 'closeOn' }],
  };
  const { data } = useQuery({ ...allRecords(question), enabled: object !== 'lead' });
  if (!data || data.rows.length === 0) return null;
  return (
    <>
      <h3>Open deals</h3>
      <ul>
        {data.rows.slice(0, SHOWN).map((deal) => (
          <li key={deal.id}>
            <button type="button" className="link-button clip" onClick={() => open('deal', deal.id)}>
              {String(deal.name)}
            </button>
            <span className="second">{stage(Number(deal.stage))?.name}</span>
            {deal.value !== null && <span>{money(Number(deal.value), String(deal.currency))}</span>}
          </li>
        ))}
      </ul>
    </>
  );
}
