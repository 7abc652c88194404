import { inThread } from '../../platform/database/reading-thread';
import { movementPart } from './movement-part';

/** Tells how a part of the deals moved, in a thread of its own. */
export default inThread(movementPart);
