import { connect, type Queries } from "./connect";

/**
 * Does something on the database itself, in one transaction: whoever can run it has the whole house in hand already.
 *
 * @throws Error with a sentence where no database is named
 */
export async function onDatabase<Value>(
  databaseUrl: string | undefined,
  act: (tx: Queries) => Promise<Value>,
): Promise<Value> {
  if (databaseUrl === undefined || databaseUrl === "")
    throw new Error(
      "Set AMIGO_DATABASE_URL to the address of the database, as the program itself has it.",
    );
  const connection = connect(databaseUrl);
  try {
    return await connection.db.transaction(act);
  } finally {
    await connection.close();
  }
}
