import { randomBytes } from "node:crypto";
import { ROLE, roleStatements } from "../../scripts/databaseRole.mjs";
import pg from "pg";

/** Of the role in the databases of tests, which stand on this machine alone and are dropped. */
const ROLE_PASSWORD = "onlyfortests";

/** Any number that no other program on this server uses for an advisory lock. */
const TEMPLATE_LOCK = 7_204_119;

/** What a database of a test holds from the start. */
export interface Filling {
  name: string;
  /** Fills an empty database, by the address of Amigo's role, and closes its connections. */
  fill(url: string): Promise<void>;
}

export interface TestDatabase {
  /** Its address for the role as which Amigo works, which is no administrator. */
  url: string;
  adminUrl: string;
  drop(): Promise<void>;
}

/**
 * A database of its own for one test file. In a run of tests (`AMIGO_TEST_RUN`) each filling is made once, as a template, and the
 * others are copies of it.
 *
 * @param options `server` is the address of a database server other than that of the run; nothing is shared there
 */
export async function makeTestDatabase({
  server,
  filling,
}: { server?: string | undefined; filling?: Filling | undefined } = {}): Promise<TestDatabase> {
  const place = server ?? process.env.AMIGO_TEST_DATABASE_URL;
  if (place === undefined)
    throw new Error(
      "AMIGO_TEST_DATABASE_URL is not set. Run the tests with npm test or npx vitest, which start PostgreSQL for them.",
    );
  const name = `test_${randomBytes(6).toString("hex")}`;
  const run = process.env.AMIGO_TEST_RUN;
  if (filling === undefined) return create(place, name);
  if (run === undefined || server !== undefined) {
    const database = await create(place, name);
    await filling.fill(database.url);
    return database;
  }
  const template = `template_${run}_${filling.name}`;
  await makeOnce(place, template, filling);
  return create(place, name, template);
}

/** Makes a template unless one of this run's processes has; the others wait for it meanwhile. */
async function makeOnce(server: string, template: string, filling: Filling): Promise<void> {
  const client = new pg.Client({ connectionString: server });
  await client.connect();
  try {
    await client.query("select pg_advisory_lock($1)", [TEMPLATE_LOCK]);
    const { rowCount } = await client.query("select from pg_database where datname = $1", [
      template,
    ]);
    if (rowCount === 1) return;
    // It gets its name when it is whole: a process that is killed meanwhile leaves no half of one.
    const draft = `${template}_draft`;
    await client.query(`drop database if exists ${draft} with (force)`);
    const { url } = await create(server, draft);
    await filling.fill(url);
    await client.query(`alter database ${draft} rename to ${template}`);
  } finally {
    await client.end();
  }
}

async function create(server: string, name: string, template = "template1"): Promise<TestDatabase> {
  await ask(server, `create database ${name} template ${template}`);
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

async function ask(at: string, text: string): Promise<void> {
  const client = new pg.Client({ connectionString: at });
  await client.connect();
  await client.query(text).finally(() => client.end());
}
