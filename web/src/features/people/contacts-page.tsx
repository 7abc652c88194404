import { ViewPage } from '../../kernel/views/view-page';

export const Component = () => <ViewPage object="contact" empty="The people you deal with stand here." />;
