/** A column of an `EntryList`: which field of an entry, and how it is typed. */
export type Column = {
  /** Under the entry: `name`, or `at/1`. */
  field: string;
  label: string;
  /** Behind a number. */
  unit?: string;
  /** What stands there while the document says nothing. */
  otherwise?: unknown;
  /** For which entries it is of use: all, if not given. */
  when?: (entry: Record<string, unknown>) => boolean;
} & (
  | { as: "text" | "number" | "length" | "flag" | "heights" }
  | { as: "choice"; options: readonly (readonly [string, string])[] }
);
