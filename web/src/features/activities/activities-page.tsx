import { type AnyRecord } from '@zawn/core';
import { ViewPage } from '../../kernel/views/view-page';
import { Recording } from '../calls/recording';

/** A recording is heard where it stands. */
const show = {
  recording: (activity: AnyRecord) => <Recording activity={activity} />,
};

export const Component = () => (
  <ViewPage object="activity" empty="Calls, meetings and tasks stand here." show={show} />
);
