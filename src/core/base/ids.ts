declare const table: unique symbol;

/**
 * The id of a row of one table: the id of another table's row does not fit where it is wanted. A plain text
 * does: what comes from outside is held against a schema where it enters.
 */
export type Id<T extends string> = string & { readonly [table]?: T };
