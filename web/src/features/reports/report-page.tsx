import { useQuery } from '@tanstack/react-query';
import {
  daysInWords,
  knownReport,
  objectType,
  ratiosInWords,
  recordsBehind,
  type Design,
  type Names,
  type ReportDesign,
  type RowPlace,
} from '@zawn/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { type LabelContext } from '../../kernel/drawings/key-label';
import { listAddress } from '../../kernel/questions/list-address';
import { Unrated } from '../../kernel/questions/unrated';
import { useWording } from '../../kernel/questions/use-wording';
import { ColumnsPanel } from '../../kernel/views/columns-panel';
import { Sentence } from '../../kernel/sentence/sentence';
import { counted, date } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { ReportClauses } from './clauses';
import { RecordsBeside } from './records-beside';
import { ReportExport } from './report-export';
import { ReportActions } from './report-actions';
import { ReportDrawingPart } from './report-drawing';
import { reportAnswer } from '../../platform/api/queries';
import { ForPaper } from '../../platform/theme/for-paper';
import { ReportTable } from './report-table';
import './reports.css';
import { useBeside } from './use-beside';
import { useReport } from './use-report';
import { useWayDown, WayDown } from './way-down';

const NO_NAMES: Names = {};

/** The sentence writes a question in the shape of a view's. */
const asView = ({ question }: ReportDesign): Design => ({ question, draw: 'table' });

/** A report: the sentence on top, then the drawing, then the table. Every figure opens its records beside it. */
export function Component() {
  const shown = useReport();
  const { base, design, change, isChanged, isLoading } = shown;
  const way = useWayDown(shown.asked);
  const { asked } = way;
  const { catalogue, organisation, policy, today } = useSession();
  const {
    data: shownNow,
    error,
    refetch,
    isPlaceholderData,
  } = useQuery({ ...reportAnswer(asked), enabled: base.kind !== 'gone' });
  // What stands on the page until the next answer is there belongs to the report it answers.
  const data = shownNow?.answer;
  const drawn = knownReport(shownNow?.design ?? asked, catalogue).design;
  const wording = useWording(data?.names ?? NO_NAMES);
  const { beside, openBeside, close } = useBeside();
  const labels = useMemo<LabelContext>(
    () => ({ catalogue, calendar: organisation, wording, names: data?.names ?? NO_NAMES }),
    [catalogue, organisation, wording, data],
  );
  const { label, plural } = objectType(drawn.question.object);
  const addressOf = (place: RowPlace) => {
    const behind = recordsBehind(drawn, { catalogue, calendar: organisation, today }, place);
    return listAddress(objectType(behind.object).path, behind);
  };
  if (isLoading && base.kind === 'gone') return <Skeleton rows={12} />;
  if (base.kind === 'gone')
    return (
      <Empty title="This report is gone, or is not shared with you.">
        <Link to="/reports">See all reports</Link>
      </Empty>
    );
  const name =
    base.kind === 'ready' ? base.ready.name : base.kind === 'kept' ? base.report.name : 'A new report';
  const about = base.kind === 'ready' ? base.ready.about : base.kind === 'kept' ? base.report.about : '';
  const all = data?.rows[0];
  const ratios = all && ratiosInWords(drawn, all, catalogue);
  const hasOthers = drawn.figures.some((figure) => 'measure' in figure && figure.beside);
  return (
    <div className={beside ? 'report-page report-page-beside' : 'report-page'}>
      <div className="report">
        <header className="page-head view-head">
          <h1>{name}</h1>
          <span className="page-count" role="status">
            {all && counted(all.count, label.toLowerCase(), plural.toLowerCase())}
            {isChanged && base.kind !== 'new' && ', changed'}
            {base.kind === 'new' && ', not saved'}
          </span>
          <div className="page-tools">
            <ColumnsPanel
              design={asView(design)}
              onChange={({ question }) => change({ ...design, question })}
            />
            {policy.allows(asked.question.object, 'export') && (
              <ReportExport design={asked} name={name} about={about ?? ''} />
            )}
            <ReportActions shown={shown} />
          </div>
        </header>
        {about && <p className="report-about second">{about}</p>}
        <WayDown way={way} wording={wording} />
        <Sentence
          design={asView(design)}
          onChange={({ question }) => change({ ...design, question })}
          wording={wording}
          leftOut={data?.leftOut ?? []}
          mostGroups={3}
          typed="elsewhere"
          rest={<ReportClauses design={design} onChange={change} wording={wording} />}
        />
        {error ? (
          <Trouble error={error} retry={() => void refetch()} />
        ) : !data || !all ? (
          <Skeleton rows={10} />
        ) : all.count === 0 && !hasOthers ? (
          <Empty title={`No ${plural.toLowerCase()} match this.`} />
        ) : (
          // What is clicked are links of their own, which the keyboard reaches as well.
          <div
            className={`report-body ${isPlaceholderData ? 'drawing-stale' : ''}`}
            onClickCapture={openBeside}
          >
            {data.period && (
              <p className="second report-days">
                {data.period && daysInWords(data.period, date)}
                {data.compared.before && `, against ${daysInWords(data.compared.before, date)}`}
                {data.compared.yearBefore && `, against ${daysInWords(data.compared.yearBefore, date)}`}
              </p>
            )}
            {ratios && <p className="report-ratios">{ratios}</p>}
            <Unrated parts={data.unrated.map(({ question, count }) => [question, count] as const)} />
            {drawn.draw !== 'none' && (
              <ForPaper className="report-drawing">
                <ReportDrawingPart
                  design={drawn}
                  answer={data}
                  wording={wording}
                  labels={labels}
                  addressOf={addressOf}
                />
              </ForPaper>
            )}
            {data.isCut && (
              <p className="left-out">There are more groups than are shown. Group by something coarser.</p>
            )}
            {data.dropped > 0 && (
              <p className="second">
                {counted(data.dropped, 'group is', 'groups are')} left out by their figures. What all come to
                counts them.
              </p>
            )}
            <ReportTable
              furtherDown={way.addressOf}
              design={drawn}
              answer={data}
              wording={wording}
              labels={labels}
              addressOf={addressOf}
            />
          </div>
        )}
      </div>
      {beside && <RecordsBeside question={beside} close={close} />}
    </div>
  );
}
