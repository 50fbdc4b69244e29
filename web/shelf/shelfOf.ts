/** Whose shelf it is: a list's, or that of a private list. */
export interface ShelfOf {
  id: string;
  isOpen: boolean;
  isPrivate: boolean;
  /** How many addresses hear of what is new. */
  members: number;
}
