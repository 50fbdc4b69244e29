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
