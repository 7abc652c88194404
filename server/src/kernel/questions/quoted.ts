/** A column of a statement's table, quoted. */
export const q = (alias: string, column: string) => `"${alias}"."${column}"`;
