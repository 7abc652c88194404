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
