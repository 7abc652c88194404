import { ViewPage } from '../../kernel/views/view-page';

export const Component = () => (
  <ViewPage object="account" empty="The organisations you sell to stand here." />
);
