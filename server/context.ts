import type { DNSResolver } from "mailauth";
import type { Logger } from "pino";
import type { Connection, Database } from "./db/connect";
import type { DemoHouse } from "./demoHouse";
import type { Desk } from "./desk/desk";
import type { Events } from "./events/events";
import type { MailKeys } from "./mail/mailKeys";
import type { Settings } from "./settings";
import type { ObjectStore } from "./shelf/objectStore";

/** What every part of a process works with. */
export interface Context {
  settings: Settings;
  db: Database;
  connection: Connection;
  events: Events;
  /** Where everything is done that computes much or changes rounds. */
  desk: Desk;
  log: Logger;
  /** Asks the DNS; the demo house has a zone of its own. */
  resolver: DNSResolver;
  /** The demo house, where the program was started with one. */
  demo: DemoHouse | undefined;
  /** Where files on shelves are, if not in the database. */
  objects: ObjectStore | undefined;
  /** The house's own key as PEM: secrets in the database are sealed with it, and links in mails proven. */
  houseKey: string;
  /** By which mail is signed. */
  mailKeys: MailKeys;
}
