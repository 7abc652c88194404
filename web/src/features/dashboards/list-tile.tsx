import { useQuery } from '@tanstack/react-query';
import {
  allOf,
  columnLabel,
  columnsOf,
  designOf,
  fieldAt,
  isSubject,
  narrowedTo,
  objectsRead,
  objectType,
  readyMade,
  recordsIn,
  type AnyRecord,
  type Design,
  type Field,
  type FieldValue as Value,
  type ListTile as Content,
  type ObjectKey,
} from '@zawn/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { listAddress } from '../../kernel/questions/list-address';
import { FieldValue } from '../../kernel/records/field-value';
import { fewRecords, savedViews } from '../../platform/api/queries';
import { useOpening } from '../../platform/frame/opening';
import { counted } from '../../platform/frame/format';
import { Skeleton } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { TileTrouble } from './tile-trouble';
import { type TileProps } from './tile-props';

/** Rows of a list on a dashboard; all of them are a click away. */
const ROWS = 25;
const COLUMNS = 4;

/** What a tile names: the view of that id or key, and whether it is gone. */
export function useNamedView({ view, ready, design }: Content): {
  name: string | undefined;
  design: Design | undefined;
  isGone: boolean;
} {
  const { data } = useQuery({ ...savedViews, enabled: view !== undefined });
  if (ready !== undefined) {
    const found = readyMade.find(({ key }) => key === ready);
    return { name: found?.name, design: design ?? found?.design, isGone: !found };
  }
  if (view === undefined) return { name: undefined, design, isGone: false };
  const found = data?.views.find(({ id }) => id === view);
  return {
    name: found?.name,
    design: design ?? (found && designOf(found)),
    isGone: data !== undefined && !found,
  };
}

/** The first records of a view on a dashboard. */
export function ListTile({ tile, choice, ignore, isSeen }: TileProps<Content>) {
  const { catalogue, teams } = useSession();
  const { design, isGone } = useNamedView(tile);
  const { asked, ignored } = useMemo(() => {
    if (!design) return { asked: undefined, ignored: [] };
    const narrowed = narrowedTo(design.question.object, choice, { catalogue, teams });
    const where = allOf(design.question.where, narrowed.asked);
    const question = { ...recordsIn(design), ...(where ? { where } : {}), columns: columnsOf(design) };
    return { asked: question, ignored: narrowed.ignored };
  }, [design, choice, catalogue, teams]);
  const { data, error, refetch } = useQuery({
    ...fewRecords(asked as NonNullable<typeof asked>, ROWS),
    meta: { reads: asked ? [...objectsRead(catalogue, asked)] : [] },
    enabled: asked !== undefined && isSeen,
    retry: false,
  });
  if (isGone && !tile.design) return <TileTrouble kind="gone" />;
  if (error) return <TileTrouble kind="refused" error={error} retry={() => void refetch()} />;
  if (!data || !asked) return <Skeleton rows={4} />;
  const { object } = asked;
  const { label, plural, path } = objectType(object);
  const columns = asked.columns.filter((column) => fieldAt(catalogue, object, column)).slice(0, COLUMNS);
  const said = ignore([...ignored, ...(choice.period ? (['period'] as const) : [])]);
  if (data.total === 0)
    return (
      <div className="tile-list">
        {said}
        <p className="second tile-none">None in this choice.</p>
      </div>
    );
  const all = listAddress(path, { ...asked, columns: asked.columns });
  return (
    <div className="tile-list">
      {said}
      <p className="second">
        <Link to={all}>{counted(data.total, label.toLowerCase(), plural.toLowerCase())}</Link>
      </p>
      <table>
        <thead>
          <tr>
            {columns.map((column) => (
              <th key={column} scope="col">
                {columnLabel(catalogue, asked, column)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {data.rows.map((record) => (
            <tr key={record.id}>
              {columns.map((column, index) => (
                <td key={column}>
                  {index === 0 ? (
                    <NameInTile object={object} record={record} shown={record[column]} />
                  ) : (
                    <FieldValue
                      field={fieldAt(catalogue, object, column) as Field}
                      value={record[column] ?? null}
                      record={record}
                      names={data.names}
                      path={column}
                    />
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The name of a record, which opens its sheet where it has one. */
function NameInTile({ object, record, shown }: { object: ObjectKey; record: AnyRecord; shown?: Value }) {
  const { open } = useOpening();
  const name = String(shown ?? record.name ?? '–');
  if (!isSubject(object)) return <>{name}</>;
  return (
    <button type="button" className="link-button clip" onClick={() => open(object, record.id)}>
      {name}
    </button>
  );
}
