import type { TitleReading } from "./titleReading";
import type { ColumnProfile } from "./profileColumn";

/** A column as found: its own title, the joined title above it, and its data cells, blanks included. */
export interface FoundColumn {
  title: string;
  group: string;
  cells: readonly string[];
}

/** What is known of a column by itself. */
export interface ColumnEvidence {
  title: TitleReading;
  profile: ColumnProfile;
  /** The words of each sampled cell, folded, of three letters and more. */
  words: readonly (readonly string[])[];
  /** The sampled cells, folded; empty where nothing stands. */
  cells: readonly string[];
  /** The part in front of the @ of each address in the sampled cells, folded, without signs. */
  boxes: readonly string[];
}
