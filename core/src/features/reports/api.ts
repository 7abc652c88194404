import { type Condition } from '../../kernel/questions';
import { type Names } from '../../kernel/questions/api';
import { type Movement, type MovementEntry, type MovementQuestion, type MovementStep } from './movement';
import { type ReportDesign } from './report';

/** A report asked for as it stands, kept or not. */
export interface ReportRequest {
  design: ReportDesign;
}

/** A report taken out as a file. */
export interface ReportFileRequest extends ReportRequest {
  format: 'csv' | 'xlsx' | 'pdf';
  name: string;
  about?: string;
  /** Its drawing as it is on the screen: a PNG in Base64. */
  drawing?: string;
}

/** How much a step came to, how many deals it is of, and the largest of them. */
export interface MovementStepAnswer {
  value: number;
  count: number;
  entries: MovementEntry[];
}

export type MovementPart = Omit<Movement, 'steps'> & { steps: Record<MovementStep, MovementStepAnswer> };

/** How the open pipeline went from one moment to another: all of it, and each group by itself. */
export interface MovementAnswer {
  asked: MovementQuestion;
  /** The moments it lies between. */
  from: string;
  to: string;
  all: MovementPart;
  groups: MovementPart[];
  /** The parts of the condition that the log of deals cannot tell: they are judged as they are today. */
  asToday: Condition[];
  names: Names;
}
