import { type Selection } from '../bulk/api';
import { type Design } from '../../kernel/views';

export interface ExportRequest {
  design: Design;
  selection?: Selection;
  format: 'csv' | 'xlsx' | 'vcard';
  /** The columns on the screen, or every field. */
  fields: 'shown' | 'all';
}
