import pg from "pg";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { ROLE, roleStatements } from "../../scripts/databaseRole.mjs";
import { makeTestDatabase } from "../testing/testDatabase";
import { migrate } from "./migrate";

let database: Awaited<ReturnType<typeof makeTestDatabase>>;
let amigo: pg.Client;
let admin: pg.Client;

beforeAll(async () => {
  database = await makeTestDatabase();
  admin = new pg.Client({ connectionString: database.adminUrl });
  await admin.connect();
  await migrate(database.url);
  amigo = new pg.Client({ connectionString: database.url });
  await amigo.connect();
});
afterAll(async () => {
  await amigo.end();
  await admin.end();
  await database.drop();
});

describe("the role as which Amigo uses its database", () => {
  test("may do nothing beyond its own schemas", async () => {
    const { rows } = await amigo.query(
      "select rolsuper, rolcreatedb, rolcreaterole, rolreplication, rolbypassrls from pg_roles where rolname = current_user",
    );
    expect(rows).toEqual([
      {
        rolsuper: false,
        rolcreatedb: false,
        rolcreaterole: false,
        rolreplication: false,
        rolbypassrls: false,
      },
    ]);
    for (const forbidden of [
      "copy (select 1) to program 'cat'",
      "copy site from '/etc/passwd'",
      "select pg_read_file('/etc/passwd')",
      "select rolpassword from pg_authid",
      "create database another",
      "create role another",
      `drop database "${new URL(database.url).pathname.slice(1)}"`,
    ])
      await expect(amigo.query(forbidden), forbidden).rejects.toThrow();
  });

  test("owns every table, and no database", async () => {
    const { rows } = await admin.query<{ owner: string }>(
      "select distinct pg_get_userbyid(relowner) as owner from pg_class where relkind in ('r', 'S', 'v') and relnamespace in (select oid from pg_namespace where nspname in ('public', 'drizzle'))",
    );
    expect(rows).toEqual([{ owner: ROLE }]);
    const { rows: databases } = await admin.query(
      "select datname from pg_database where datdba = $1::regrole",
      [ROLE],
    );
    expect(databases).toEqual([]);
  });

  test("is given what an older Amigo made as the administrator, with what stands in it", async () => {
    await admin.query(
      "create type mood as enum ('calm'); create table older (id serial primary key, mood mood); insert into older (mood) values ('calm'); create function answer() returns int language sql as 'select 42'",
    );
    await expect(amigo.query("select * from older")).rejects.toThrow("permission denied");
    await admin.query(roleStatements(new URL(database.url).pathname.slice(1), "anotherword"));
    expect((await amigo.query("select * from older")).rows).toEqual([{ id: 1, mood: "calm" }]);
    await amigo.query(
      "alter table older add column more text; drop table older; drop type mood; drop function answer()",
    );
    // It can be run as often as one likes.
    await admin.query(roleStatements(new URL(database.url).pathname.slice(1), "anotherword"));
  });
});
