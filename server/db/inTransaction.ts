import { Refused } from "../refused";
import type { Database, Queries } from "./connect";

/** Carries a refusal out of a transaction, so that the database undoes what was done before it. */
class Undone extends Error {
  constructor(readonly refused: Refused) {
    super("undone");
  }
}

/** Does work in a transaction. Where the work returns a refusal, none of it is kept and the refusal is returned. */
export async function inTransaction<Result>(
  db: Database,
  work: (tx: Queries) => Promise<Result>,
): Promise<Result> {
  try {
    return await db.transaction(async (tx) => {
      const result = await work(tx);
      if (result instanceof Refused) throw new Undone(result);
      return result;
    });
  } catch (failure) {
    if (failure instanceof Undone) return failure.refused as Result;
    throw failure;
  }
}
