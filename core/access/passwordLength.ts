/** The fewest and most signs of a password. */
export const SHORTEST = 10;
export const LONGEST = 200;
