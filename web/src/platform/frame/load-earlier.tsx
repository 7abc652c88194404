import { Button } from 'antd';

interface Props {
  /** What is read page by page, as the query that reads it gives it back. */
  pages: { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => unknown };
  children?: string;
}

/** The last entry of a list that goes on: fetches what stands behind. */
export function LoadEarlier({ pages, children = 'Earlier' }: Props) {
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = pages;
  if (!hasNextPage) return null;
  return (
    <li>
      <Button size="small" loading={isFetchingNextPage} onClick={() => void fetchNextPage()}>
        {children}
      </Button>
    </li>
  );
}
