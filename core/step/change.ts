/** What a cause does to one list: an address joins, leaves, or is put in place of another. */
export interface Change {
  list: string;
  kind: "joins" | "leaves" | "replaced";
  address: string;
  /** The address that stood there before, for `replaced`. */
  instead: string | undefined;
  person: string;
}
