/** A record below another of its kind, such as an account of a group. */
export interface Node {
  id: number;
  parent: number | null;
}

/** The records below one, itself first, each once; what stands in a circle ends where it began. */
export function below(nodes: readonly Node[], top: number): number[] {
  const children = new Map<number, number[]>();
  for (const { id, parent } of nodes)
    if (parent !== null) children.set(parent, [...(children.get(parent) ?? []), id]);
  const found = new Set([top]);
  for (const id of found) for (const child of children.get(id) ?? []) found.add(child);
  return [...found];
}

/** Whether placing a record under another would make a circle. */
export function makesCircle(nodes: readonly Node[], id: number, parent: number): boolean {
  return below(nodes, id).includes(parent);
}

/** A figure of each record with those below it added. */
export function rollUp(nodes: readonly Node[], own: ReadonlyMap<number, number>): Map<number, number> {
  return new Map(
    nodes.map(({ id }) => [id, below(nodes, id).reduce((sum, each) => sum + (own.get(each) ?? 0), 0)]),
  );
}
