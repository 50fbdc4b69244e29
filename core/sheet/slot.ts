/** How many guardians a row can have in columns of their own. */
const COLUMNS = 10;

/**
 * Returns the slot of a person in a row: of whom the cell of a slotted column (guardian 1, guardian 2 …) speaks. A cell can name
 * several people; those after the first have slots beyond the columns'.
 *
 * @param column the slot of the column, from 1
 * @param nth    which person of the cell, from 0
 */
export function slotOf(column: number, nth: number): number {
  return column + nth * COLUMNS;
}

/** Returns the slot of the column in which a person's slot stands. */
export function columnSlot(slot: number): number {
  return slot % COLUMNS;
}
