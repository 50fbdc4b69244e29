import { resolve } from "node:dns/promises";
import type { AddressInfo } from "node:net";
import { serve, type ServerType } from "@hono/node-server";
import type { DNSResolver } from "mailauth";
import { sql } from "drizzle-orm";
import { connect, type Queries } from "./db/connect";
import { migrate } from "./db/migrate";
import { makeLog } from "./log";
import type { Context } from "./context";
import type { DemoHouse } from "./demoHouse";
import { Desk } from "./desk/desk";
import { Events } from "./events/events";
import { forgetStanding } from "./facts/standing";
import { startJobs } from "./jobs/jobs";
import { makeApp } from "./makeApp";
import { Deliverer } from "./mail/deliver";
import { openHouseKey } from "./mail/houseKey";
import { MailKeys } from "./mail/mailKeys";
import { Traffic } from "./http/traffic";
import { startSmtp } from "./mail/smtpServers";
import { sandbox } from "./sandbox/sandbox";
import { Metrics, serveMetrics } from "./watch/metrics";
import { writeAsHouse } from "./texts/writeAsHouse";
import type { Settings } from "./settings";
import { openObjectStore } from "./shelf/objectStore";
import { describeFailure } from "./describeFailure";

/** A running process. `ports` are those that were really taken, also where 0 was asked for. */
export interface RunningAmigo {
  context: Context;
  ports: { web: number; incoming: number; submission: number };
  close(): Promise<void>;
}

export interface StartOptions {
  /** The demo house to offer; none in a real one. */
  demo?: DemoHouse | undefined;
  /** Asks the DNS: the network's, or the demo's own, unless a test gives another. */
  resolver?: DNSResolver;
}

/**
 * Starts the roles that the settings name against one database: `web`, `mail` (SMTP in), `worker`.
 *
 * @throws Error with a sentence for people when a port is taken or the database does not answer
 */
export async function startAmigo(
  settings: Settings,
  { demo, resolver = demo?.zone ?? resolve }: StartOptions = {},
): Promise<RunningAmigo> {
  const log = makeLog(settings);
  const closers: (() => Promise<void>)[] = [];
  const closeAll = async (): Promise<void> => {
    for (const close of closers.reverse().splice(0)) await close();
  };
  try {
    await migrate(settings.databaseDirectUrl);
    const connection = connect(settings.databaseUrl, {
      most: settings.databaseConnections,
      onLoss: (failure) =>
        log.warn({ failure: describeFailure(failure) }, "a connection to the database was lost"),
    });
    closers.push(() => connection.close());
    if (await isAdministrator(connection.db))
      log.warn(
        "Amigo uses its database as an administrator of the whole server, which it need not be. docs/operation.md says how to give it a role of its own.",
      );
    const houseKey = await openHouseKey(settings, connection.db);
    const mailKeys = new MailKeys(connection.db, houseKey);
    await mailKeys.load();
    closers.push(async () => forgetStanding());
    const events = new Events(settings.databaseDirectUrl, connection.db, log);
    await events.start();
    closers.push(() => events.close());
    const desk = new Desk(settings.databaseUrl, settings.importMemory);
    closers.push(() => desk.close());
    if (settings.roles.has("web") || settings.roles.has("worker")) desk.warm();
    if (settings.roles.has("web") || settings.roles.has("mail")) sandbox.warm();
    const objects = await openObjectStore(settings);
    closers.push(async () => objects?.close());
    const context: Context = {
      settings,
      db: connection.db,
      connection,
      events,
      desk,
      log,
      resolver,
      demo,
      objects,
      houseKey,
      mailKeys,
    };
    closers.push(await speakAsHouse(context));
    const metrics = settings.metrics && new Metrics(context);
    if (settings.metrics !== undefined && metrics !== undefined)
      closers.push(await serveMetrics(metrics, settings.metrics));
    const ports = { web: 0, incoming: 0, submission: 0 };
    if (settings.roles.has("mail")) {
      const smtp = await startSmtp(context);
      Object.assign(ports, smtp.ports);
      settings.smtpPort = smtp.ports.incoming;
      closers.push(() => smtp.close());
    }
    if (settings.roles.has("worker")) {
      const deliverer = new Deliverer(context);
      closers.push(() => deliverer.close());
      const jobs = await startJobs(context);
      closers.push(() => jobs.close());
    }
    if (settings.roles.has("web")) {
      const pages = await servePages(context, metrics);
      ports.web = pages.port;
      closers.push(pages.close);
    }
    return { context, ports, close: closeAll };
  } catch (failure) {
    await closeAll();
    throw failure;
  }
}

/** Writes texts as the house does and signs with its keys, from now on and whenever the house changes, until the answer is called. */
async function speakAsHouse({ db, events, log, mailKeys }: Context): Promise<() => Promise<void>> {
  await writeAsHouse(db);
  const stop = events.on((topic) => {
    if (topic === "house")
      Promise.all([writeAsHouse(db), mailKeys.load()]).catch((failure: unknown) =>
        log.warn({ failure: describeFailure(failure) }, "the house could not be looked at"),
      );
  });
  return async () => stop();
}

/** Serves the pages and the API. Returns at which port, and what ends that: requests under way finish first. */
async function servePages(
  context: Context,
  metrics: Metrics | undefined,
): Promise<{ port: number; close(): Promise<void> }> {
  const traffic = new Traffic();
  const server = await listen(makeApp(context, { traffic, metrics }).fetch, context.settings);
  return {
    port: (server.address() as AddressInfo).port,
    close: async () => {
      await traffic.stop();
      await new Promise<void>((resolve) => {
        server.close(() => resolve());
        if ("closeAllConnections" in server) server.closeAllConnections();
      });
    },
  };
}

function listen(
  fetch: Parameters<typeof serve>[0]["fetch"],
  settings: Settings,
): Promise<ServerType> {
  return new Promise((resolve, reject) => {
    const server = serve({ fetch, port: settings.port, hostname: settings.host }, () =>
      resolve(server),
    );
    server.once("error", (failure: NodeJS.ErrnoException) =>
      reject(
        failure.code === "EADDRINUSE"
          ? new Error(
              `Port ${settings.port} is taken by another program. End that program, or set AMIGO_PORT to a free port.`,
            )
          : failure,
      ),
    );
  });
}

/** Whether the role in the database's address may do everything on its server. */
async function isAdministrator(db: Queries): Promise<boolean> {
  const { rows } = await db.execute<{ is: boolean }>(
    sql`select rolsuper as is from pg_roles where rolname = current_user`,
  );
  return rows[0]?.is === true;
}
