import { type AnyRecord } from '@zawn/core';
import { ViewPage } from '../../kernel/views/view-page';
import { Recording } from '../calls/recording';

/** A recording is heard where it stands. */
const show = {
  recording: ({ recording, name }: AnyRecord) =>
    typeof recording === 'number' ? (
      <Recording file={recording} label={`Recording: ${String(name)}`} />
    ) : null,
};

export const Component = () => (
  <ViewPage object="activity" empty="Calls, meetings and tasks stand here." show={show} />
);
