import { answering } from './reading-thread';
import { columnsOf } from './statement';

/** Answers one statement. */
export default answering(columnsOf);
