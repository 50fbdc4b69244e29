import { randomBytes } from "node:crypto";
import pg from "pg";

/** A database of its own for one test file, on the server that `npm test` has started or on another one. */
export async function makeTestDatabase(
  server = process.env.AMIGO_TEST_DATABASE_URL,
): Promise<{ url: string; drop(): Promise<void> }> {
  if (server === undefined)
    throw new Error(
      "AMIGO_TEST_DATABASE_URL is not set. Run the tests with npm test, which starts PostgreSQL for them.",
    );
  const name = `test_${randomBytes(6).toString("hex")}`;
  const ask = async (text: string): Promise<void> => {
    const client = new pg.Client({ connectionString: server });
    await client.connect();
    await client.query(text).finally(() => client.end());
  };
  await ask(`create database ${name}`);
  const url = new URL(server);
  url.pathname = `/${name}`;
  return { url: url.href, drop: () => ask(`drop database if exists ${name} with (force)`) };
}
