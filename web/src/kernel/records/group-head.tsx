import {
  behind,
  groupingInWords,
  measureInWords,
  objectType,
  type Design,
  type FieldValue,
  type FiguresAnswer,
  type Question,
} from '@zawn/core';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { Link } from 'react-router';
import { figureText, keyLabel, type LabelContext } from '../drawings/key-label';
import { number } from '../../platform/frame/format';
import { listAddress } from '../questions/list-address';
import { Unrated } from '../questions/unrated';
import { useSession } from '../../platform/sessions/session';
import { type GroupLine } from './lines';

interface Shared {
  design: Design;
  /** The design's question, its unfinished parts left out. */
  question: Question;
  labels: LabelContext;
}

/** The figures over some records, each opening them. */
function Figures({
  figures,
  keys,
  design,
  question,
  labels,
}: Shared & { figures: readonly (number | null)[] | undefined; keys: readonly FieldValue[] }) {
  const { organisation } = useSession();
  const { object, measures = [] } = question;
  const to = listAddress(objectType(object).path, behind(question, keys, labels.catalogue, organisation));
  return (
    <span className="group-figures">
      {measures.map((measure, index) => (
        <Link key={JSON.stringify(measure)} to={to}>
          <span className="second">{measureInWords(labels.catalogue, object, measure)} </span>
          <b>
            {figureText(
              figures?.[index + 1] ?? null,
              measure,
              object,
              labels,
              organisation.currency,
              design.rounding,
            )}
          </b>
        </Link>
      ))}
    </span>
  );
}

/** The head of a group of rows: what they have in common, how many they are, and their figures. */
export function GroupHead({ line, fold, ...shared }: Shared & { line: GroupLine; fold: () => void }) {
  const { organisation } = useSession();
  const { question, labels } = shared;
  const { object, groups = [] } = question;
  const depth = line.keys.length - 1;
  const to = listAddress(
    objectType(object).path,
    behind(question, line.keys, labels.catalogue, organisation),
  );
  return (
    <div className={`group-head group-head-${line.level}`} role="gridcell">
      <button type="button" className="group-fold" aria-expanded={!line.isFolded} onClick={fold}>
        {line.isFolded ? <ChevronRight size={14} aria-hidden /> : <ChevronDown size={14} aria-hidden />}
        <b>{keyLabel(object, groups[depth], line.keys[depth], labels)}</b>
        <span className="visually-hidden">, {groupingInWords(labels.catalogue, object, groups[depth])}</span>
      </button>
      <Link className="second group-count" to={to}>
        {number(line.figures[0] ?? 0)}
      </Link>
      <Figures {...shared} figures={line.figures} keys={line.keys} />
    </div>
  );
}

/** The figures over all rows, at the foot; or that there are too many groups to show. */
export function TableFoot({
  total,
  answer,
  ...shared
}: Shared & { total: number; answer: FiguresAnswer | undefined }) {
  if (answer && (shared.question.measures ?? []).length === 0) return null;
  return (
    <div className="table-foot" role="row">
      <div role="gridcell" className="group-head">
        {answer ? (
          <>
            <b>All {number(total)}</b>
            <Figures {...shared} figures={answer.rows[0]?.figures} keys={[]} />
            <Unrated parts={[[shared.question, answer.unrated]]} />
          </>
        ) : (
          <b>There are more groups than a table can show. Group by something coarser.</b>
        )}
      </div>
    </div>
  );
}
