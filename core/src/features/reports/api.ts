import { type ReportDesign } from './report';

/** A report asked for as it stands, kept or not. */
export interface ReportRequest {
  design: ReportDesign;
}
