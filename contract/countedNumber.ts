import * as z from "zod";

/** The largest number that an `integer` of the database holds. */
const LARGEST = 2_147_483_647;

/** A whole number in a path or query that counts rows, from 0 to what the database can count. */
export const CountedNumber = z.coerce.number().int().min(0).max(LARGEST);
