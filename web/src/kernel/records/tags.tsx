import { useQuery } from '@tanstack/react-query';
import { ask, type RecordOf } from '@zawn/core';
import { allRecords } from '../../platform/api/queries';

/** How tags look, as operations have set it up. */
export const TAGS = ask('tag');

/** The tags of a record, each in its colour. */
export function Tags({ tags }: { tags: readonly string[] }) {
  const { data } = useQuery(allRecords(TAGS));
  const known = (data?.rows ?? []) as unknown as RecordOf<'tag'>[];
  const colourOf = (tag: string) => known.find(({ name }) => name === tag)?.colour;
  return (
    <span className="tags">
      {tags.map((tag) => (
        <span key={tag} className={`tag ${colourOf(tag) ? `tag-${colourOf(tag)}` : ''}`}>
          {tag}
        </span>
      ))}
    </span>
  );
}
