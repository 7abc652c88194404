import { useQuery } from '@tanstack/react-query';
import { isSubject, objectOfPath, objectType, type SubjectKey } from '@zawn/core';
import { Link, useNavigate, useParams } from 'react-router';
import { oneRecord } from '../../platform/api/queries';
import { LostPage } from '../../platform/frame/states';
import { RecordActions } from './record-actions';
import { RecordView } from './record-view';

/** A record on a page of its own. */
export function Component() {
  const { objects = '', id = '' } = useParams();
  const object = objectOfPath(objects);
  if (!isSubject(object) || !/^\d+$/.test(id)) return <LostPage />;
  return <RecordOnPage key={`${object} ${id}`} object={object} id={Number(id)} />;
}

function RecordOnPage({ object, id }: { object: SubjectKey; id: number }) {
  const navigate = useNavigate();
  const { data } = useQuery(oneRecord(object, id));
  const { plural, path } = objectType(object);
  return (
    <div className="record-page">
      <header>
        <nav aria-label="Where this is">
          <Link to={`/${path}`}>{plural}</Link>
        </nav>
        {data && (
          <RecordActions
            object={object}
            record={data.record}
            may={data.may}
            leave={() => void navigate(`/${path}`)}
          />
        )}
      </header>
      <RecordView object={object} id={id} />
    </div>
  );
}
