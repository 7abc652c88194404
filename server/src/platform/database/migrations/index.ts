import { Foundation1763856000000 } from './1763856000000-foundation';
import { Finding1764201600000 } from './1764201600000-finding';
import { Importing1764806400000 } from './1764806400000-importing';
import { Noticing1764892800000 } from './1764892800000-noticing';
import { Assigning1764979200000 } from './1764979200000-assigning';
import { Tokens1765065600000 } from './1765065600000-tokens';
import { Hearing1765152000000 } from './1765152000000-hearing';
import { Capturing1765238400000 } from './1765238400000-capturing';
import { Choosing1765324800000 } from './1765324800000-choosing';
import { Knowing1765411200000 } from './1765411200000-knowing';
import { Merging1765497600000 } from './1765497600000-merging';
import { Belonging1765584000000 } from './1765584000000-belonging';
import { Naming1765670400000 } from './1765670400000-naming';
import { Linking1765756800000 } from './1765756800000-linking';
import { Slimming1765843200000 } from './1765843200000-slimming';
import { AnsweringOnce1765929600000 } from './1765929600000-answering-once';
import { LoggingWork1766016000000 } from './1766016000000-logging-work';
import { OpenSteps1766102400000 } from './1766102400000-open-steps';
import { PuttingInOrder1766188800000 } from './1766188800000-putting-in-order';
import { LogCursorsAndCounters1766275200000 } from './1766275200000-log-cursors-and-counters';
import { PlainNames1766361600000 } from './1766361600000-plain-names';

/** Every migration, oldest first. */
export const migrations = [
  Foundation1763856000000,
  Finding1764201600000,
  Importing1764806400000,
  Noticing1764892800000,
  Assigning1764979200000,
  Tokens1765065600000,
  Hearing1765152000000,
  Capturing1765238400000,
  Choosing1765324800000,
  Knowing1765411200000,
  Merging1765497600000,
  Belonging1765584000000,
  Naming1765670400000,
  Linking1765756800000,
  Slimming1765843200000,
  AnsweringOnce1765929600000,
  LoggingWork1766016000000,
  OpenSteps1766102400000,
  PuttingInOrder1766188800000,
  LogCursorsAndCounters1766275200000,
  PlainNames1766361600000,
];
