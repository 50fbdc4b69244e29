/** A PostgreSQL of our own; see postgres.mjs. */
export interface OwnPostgres {
  url(database: string): string;
  createDatabase(name: string): void;
  roleUrl(name: string): string;
  crash(): void;
  stop(): void;
  remove(): void;
}

export function postgresPrograms(): string | undefined;
export function startPostgres(folder: string, options?: { quick?: boolean }): Promise<OwnPostgres>;
export function freePort(): Promise<number>;
/** Runs one of PostgreSQL's programs; as root through the user postgres. */
export function program(
  name: string,
  args: readonly string[],
  env?: Record<string, string>,
): { ok: boolean; output: string };
/** Makes a file or folder readable for PostgreSQL alone, which runs as another user when we are root. */
export function own(path: string): void;
