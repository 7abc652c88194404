/** A record below another of its kind, such as an account of a group. */
export interface Node {
  id: number;
  parent: number | null;
}

/** Days back over which the activity of a group is counted. */
export const GROUP_DAYS = 90;

type Children = ReadonlyMap<number, readonly number[]>;

function childrenOf(nodes: readonly Node[]): Children {
  const children = new Map<number, number[]>();
  for (const { id, parent } of nodes) {
    if (parent === null) continue;
    const others = children.get(parent);
    if (others) others.push(id);
    else children.set(parent, [id]);
  }
  return children;
}

function walkDown(children: Children, top: number): number[] {
  const found = new Set([top]);
  for (const id of found) for (const child of children.get(id) ?? []) found.add(child);
  return [...found];
}

/** The records below one, itself first, each once; what stands in a circle ends where it began. */
export function below(nodes: readonly Node[], top: number): number[] {
  return walkDown(childrenOf(nodes), top);
}

/** What is known of each record put together with what is known of those below it; nothing where none is known. */
export function rollUpBy<T>(
  nodes: readonly Node[],
  own: ReadonlyMap<number, T>,
  together: (a: T, b: T) => T,
): Map<number, T> {
  const children = childrenOf(nodes);
  const rolled = new Map<number, T>();
  for (const { id } of nodes) {
    const known = walkDown(children, id).flatMap((each) => own.get(each) ?? []) as T[];
    if (known.length > 0) rolled.set(id, known.reduce(together));
  }
  return rolled;
}

/** A figure of each record with those below it added; 0 where nothing is known. */
export function rollUp(nodes: readonly Node[], own: ReadonlyMap<number, number>): Map<number, number> {
  const sums = rollUpBy(nodes, own, (a, b) => a + b);
  return new Map(nodes.map(({ id }) => [id, sums.get(id) ?? 0]));
}
