import {
  fieldAt,
  isObjectKey,
  isSubject,
  objectType,
  relationOf,
  relationsOf,
  type Catalogue,
  type ObjectKey,
} from '../catalogue';
import { isGroup, isRelated, pathsOfTest, type Condition, type Question } from './question';

/**
 * The objects that an answer may change with: what is asked for, what lies behind its links and relations, and what hangs
 * on any of those, from which fields of theirs are derived.
 */
export function objectsRead(catalogue: Catalogue, question: Question): ReadonlySet<ObjectKey> {
  const read = new Set<ObjectKey>();
  const readPath = (object: ObjectKey, path: string) => {
    const parts = path.split('.');
    for (let length = 1; length < parts.length; length++) {
      const to = fieldAt(catalogue, object, parts.slice(0, length).join('.'))?.to;
      if (isObjectKey(to)) read.add(to);
    }
  };
  const readCondition = (object: ObjectKey, condition: Condition | undefined): void => {
    if (!condition) return;
    if (isGroup(condition)) {
      for (const part of condition.of) readCondition(object, part);
    } else if (isRelated(condition)) {
      if (condition.via !== undefined) readPath(object, `${condition.via}.id`);
      const hub = condition.via === undefined ? object : fieldAt(catalogue, object, condition.via)?.to;
      const relation = isObjectKey(hub) ? relationOf(catalogue, hub, condition.related) : undefined;
      if (!relation) return;
      read.add(relation.object);
      readCondition(relation.object, condition.where);
    } else for (const path of pathsOfTest(condition)) readPath(object, path);
  };
  const { object, where, columns = [], sort = [], groups = [], measures = [] } = question;
  read.add(object);
  readCondition(object, where);
  for (const measure of measures) {
    readCondition(object, measure.where);
    if (measure.of !== undefined) readPath(object, measure.of);
  }
  for (const path of [...columns, ...[...sort, ...groups].map(({ field }) => field)]) readPath(object, path);
  const isPart = (key: ObjectKey) => objectType(key).category === 'work' && !isSubject(key);
  for (const each of [...read])
    for (const { object: hanging } of relationsOf(catalogue, each)) if (isPart(hanging)) read.add(hanging);
  return read;
}
