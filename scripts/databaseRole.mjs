/** The role as which Amigo uses its database. */
export const ROLE = "amigo_app";

/**
 * SQL that a database's administrator runs in Amigo's database: it makes the role as which Amigo works, where there is none, lets it
 * connect and make its schemas there, and hands over to it whatever an older Amigo made as the administrator. The role is no
 * superuser: it owns its own schemas and nothing more. It can be run again at any time.
 *
 * @param database the name of the database
 * @param password the role's password, of letters and digits; it counts only where the role is made
 */
export function roleStatements(database, password) {
  if (!/^\w+$/.test(database) || !/^\w+$/.test(password))
    throw new Error("The name of the database and the password must be letters and digits.");
  return `
do $$ begin
  create role ${ROLE} login nosuperuser nocreatedb nocreaterole noreplication nobypassrls password '${password}';
exception when duplicate_object or unique_violation then null;
end $$;
revoke all on database "${database}" from public;
grant connect, create, temporary on database "${database}" to ${ROLE};
do $$
declare statement text;
begin
  for statement in
    select format('alter schema %I owner to ${ROLE}', nspname) from pg_namespace
      where nspname in ('public', 'drizzle', 'pgboss') and nspowner <> '${ROLE}'::regrole
    union all
    select format('alter table %s owner to ${ROLE}', oid::regclass) from pg_class
      where relnamespace in (select oid from pg_namespace where nspname in ('public', 'drizzle', 'pgboss'))
        and relkind in ('r', 'p', 'v', 'm') and relowner <> '${ROLE}'::regrole
        and not exists (select 1 from pg_depend where objid = pg_class.oid and deptype = 'e')
    union all
    select format('alter sequence %s owner to ${ROLE}', oid::regclass) from pg_class
      where relnamespace in (select oid from pg_namespace where nspname in ('public', 'drizzle', 'pgboss'))
        and relkind = 'S' and relowner <> '${ROLE}'::regrole
        and not exists (select 1 from pg_depend where objid = pg_class.oid and deptype in ('e', 'a', 'i'))
    union all
    select format('alter type %s owner to ${ROLE}', oid::regtype) from pg_type
      where typnamespace in (select oid from pg_namespace where nspname in ('public', 'drizzle', 'pgboss'))
        and typtype in ('e', 'd') and typowner <> '${ROLE}'::regrole
        and not exists (select 1 from pg_depend where objid = pg_type.oid and deptype = 'e')
    union all
    select format('alter routine %s owner to ${ROLE}', oid::regprocedure) from pg_proc
      where pronamespace in (select oid from pg_namespace where nspname in ('public', 'drizzle', 'pgboss'))
        and proowner <> '${ROLE}'::regrole
        and not exists (select 1 from pg_depend where objid = pg_proc.oid and deptype = 'e')
  loop
    execute statement;
  end loop;
end $$;
`;
}
