import { type Reading } from './reading';

/** A text to be read as a question. */
export interface ReadRequest {
  text: string;
}

/** How a text is read, and what the question is in words that are read back as the same question. */
export interface ReadAnswer extends Reading {
  printed?: string;
}
