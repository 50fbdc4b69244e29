import type { Logger } from "pino";
import type { Connection, Database } from "./db/connect";
import type { Events } from "./events/events";
import type { Settings } from "./settings";

/** What every part of a process works with. */
export interface Context {
  settings: Settings;
  db: Database;
  connection: Connection;
  events: Events;
  log: Logger;
}
