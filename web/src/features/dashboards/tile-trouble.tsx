import { Button } from 'antd';

interface Props {
  kind: 'gone' | 'refused';
  error?: Error;
  retry?: () => void;
}

/** What stands in a tile that has nothing to show, and the way on. The others go on. */
export function TileTrouble({ kind, error, retry }: Props) {
  return (
    <div className="tile-trouble" role="alert">
      {kind === 'gone' ? (
        <p>
          What this tile showed is gone, or is not shared with you. Show something else, or take the tile
          away.
        </p>
      ) : (
        <p>This tile could not be read. {error?.message}</p>
      )}
      {retry && (
        <Button size="small" onClick={retry}>
          Try again
        </Button>
      )}
    </div>
  );
}
