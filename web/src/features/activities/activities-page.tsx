import { ViewPage } from '../../kernel/views/view-page';

export const Component = () => <ViewPage object="activity" empty="Calls, meetings and tasks stand here." />;
