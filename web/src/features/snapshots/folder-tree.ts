import { type Folder } from '@zawn/core';

/** A folder with those in it. */
export interface FolderNode {
  folder: Folder;
  inside: FolderNode[];
}

/** Folders within each other, by name; one whose own is not shared with the reader stands at the top. */
export function treeOf(folders: readonly Folder[]): FolderNode[] {
  const nodes = new Map(folders.map((folder) => [folder.id, { folder, inside: [] }]));
  const top: FolderNode[] = [];
  for (const node of nodes.values()) {
    const above = node.folder.parent === null ? undefined : nodes.get(node.folder.parent);
    (above?.inside ?? top).push(node);
  }
  return top;
}

/** Every folder with how deep it lies, in the order of the tree. */
export const inOrderOfTree = (nodes: readonly FolderNode[], depth = 0): { folder: Folder; depth: number }[] =>
  nodes.flatMap(({ folder, inside }) => [{ folder, depth }, ...inOrderOfTree(inside, depth + 1)]);

/** Where a folder lies, from the top: `2026 / November`. */
export function pathOfFolder(folder: Folder, folders: readonly Folder[]): string {
  const names = [folder.name];
  const seen = new Set([folder.id]);
  for (let above = folder.parent; above !== null && !seen.has(above);) {
    const next = folders.find(({ id }) => id === above);
    if (!next) break;
    seen.add(next.id);
    names.unshift(next.name);
    above = next.parent;
  }
  return names.join(' / ');
}
