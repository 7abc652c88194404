import { isSubject, objectOfPath, objectType } from '@zawn/core';
import { Link, useParams } from 'react-router';
import { LostPage } from '../../platform/frame/states';
import { RecordView } from './record-view';

/** A record on a page of its own. */
export function Component() {
  const { objects = '', id = '' } = useParams();
  const object = objectOfPath(objects);
  if (!isSubject(object) || !/^\d+$/.test(id)) return <LostPage />;
  const { plural, path } = objectType(object);
  return (
    <div className="record-page">
      <nav aria-label="Where this is">
        <Link to={`/${path}`}>{plural}</Link>
      </nav>
      <RecordView key={`${object} ${id}`} object={object} id={Number(id)} />
    </div>
  );
}
