import { randomBytes } from "node:crypto";
import pg from "pg";
import { ROLE, roleStatements } from "../../scripts/databaseRole.mjs";

/** Of the role in the databases of tests, which stand on this machine alone and are dropped. */
const ROLE_PASSWORD = "onlyfortests";

/**
 * A database of its own for one test file, on the server that `npm test` has started or on another one. Its address is that of the role
 * as which Amigo works, which is no administrator.
 */
export async function makeTestDatabase(
  server = process.env.AMIGO_TEST_DATABASE_URL,
): Promise<{ url: string; adminUrl: string; drop(): Promise<void> }> {
  if (server === undefined)
    throw new Error(
      "AMIGO_TEST_DATABASE_URL is not set. Run the tests with npm test, which starts PostgreSQL for them.",
    );
  const name = `test_${randomBytes(6).toString("hex")}`;
  const ask = async (at: string, text: string): Promise<void> => {
    const client = new pg.Client({ connectionString: at });
    await client.connect();
    await client.query(text).finally(() => client.end());
  };
  await ask(server, `create database ${name}`);
  const admin = new URL(server);
  admin.pathname = `/${name}`;
  await ask(admin.href, roleStatements(name, ROLE_PASSWORD));
  const url = new URL(admin);
  url.username = ROLE;
  url.password = ROLE_PASSWORD;
  return {
    url: url.href,
    adminUrl: admin.href,
    drop: () => ask(server, `drop database if exists ${name} with (force)`),
  };
}
