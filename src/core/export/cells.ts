/**
 * Cells of the archive's tables. Nothing is a cell of \N, which no text can be mistaken for: a text made only
 * of backslashes and one N at its end gets one more backslash, which reading takes off again. Everything else
 * is written as it is.
 */
const LIKE_NOTHING = /^\\+N$/;

export const writeCell = (text: string | null): string => {
  if (text === null) return "\\N";
  if (LIKE_NOTHING.test(text)) return `\\${text}`;
  return text;
};
export const readCell = (cell: string): string | null => {
  if (cell === "\\N") return null;
  if (LIKE_NOTHING.test(cell)) return cell.slice(1);
  return cell;
};

export type FieldType = "string" | "integer" | "number" | "boolean" | "date" | "datetime" | "any";
/**
 * The type of a database column in the words of Frictionless Table Schema. JSON and lists are written as JSON
 * text.
 */
export function fieldType(column: string): FieldType {
  switch (column) {
    case "int2":
    case "int4":
    case "int8":
      return "integer";
    case "float8":
    case "numeric":
      return "number";
    case "bool":
      return "boolean";
    case "date":
      return "date";
    case "timestamptz":
      return "datetime";
    case "jsonb":
    case "_text":
      return "any";
    default:
      return "string";
  }
}

const PATHS = [
  /^datapackage\.json$/,
  /^tables\/[a-z_]{1,40}\.csv$/,
  /^recordings\/[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}\.csv$/,
  /^photographs\/[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}(-small)?\.jpg$/,
];
/**
 * Only these names occur in an archive; anything else is not one of ours, and none of them leads out of its
 * folder.
 */
export const isArchivePath = (path: string): boolean => PATHS.some((p) => p.test(path));
