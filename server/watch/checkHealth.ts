import { callerMay } from "../callers/caller";
import { ownVersion } from "../aboutSettings";
import { lookAtDetails } from "./healthDetails";
import { connect as connectTcp } from "node:net";
import type { getHealth, getHealthDetails } from "@amigo/contract/health";
import type { Context } from "../context";
import { scannerAnswers } from "../scan/clamd";
import type { Request, Answer } from "../http/handler";
import { RelayConnection } from "../relay/relayConnection";
import { relayWay } from "../relay/relayWay";
import type { Settings } from "../settings";
import { askDatabase } from "../db/askDatabase";

/** How long the relay is waited for, in milliseconds. */
const PATIENCE = 5000;

/** Returns whether the database, the SMTP port, the relay (with TLS and sign-in) and the store of files answer, and whether changes by other processes are heard. */
export async function checkHealth(
  context: Context,
  { http, caller }: Request<typeof getHealth>,
): Promise<Answer<typeof getHealth>> {
  const { settings, db, events, objects } = context;
  const [database, smtp, relayUp, shelfStore, scanner] = await Promise.all([
    askDatabase(db).then(
      () => true,
      () => false,
    ),
    greets(settings.smtpHost, settings.smtpPort),
    relayAnswers(settings),
    objects?.answers(),
    settings.scanner && scannerAnswers(settings.scanner),
  ]);
  const hears = events.isHearing();
  const well = database && smtp && relayUp && hears && shelfStore !== false && scanner !== false;
  if (!well) http.status(503);
  return {
    status: well ? ("ok" as const) : ("failing" as const),
    database,
    smtp,
    relay: relayUp,
    events: hears,
    ...(shelfStore === undefined ? {} : { shelfStore }),
    ...(scanner === undefined ? {} : { scanner }),
    ...(callerMay(caller, "change the house") ? await showHealthDetails(context) : {}),
  };
}

/** Returns what a coordinator wants to know of the machine; also where something fails, unlike the health itself. */
export async function showHealthDetails(
  context: Context,
): Promise<Answer<typeof getHealthDetails>> {
  return { version: ownVersion(), details: await lookAtDetails(context, new Date()) };
}

const UNDER_WAY = new WeakMap<Settings, Promise<boolean>>();

/**
 * Whether the relay would take a mail. Anybody may ask for the health, and it means a sign-in at the relay: so who asks while it is
 * being found out waits for that, and the relay has one such connection at a time.
 */
function relayAnswers(settings: Settings): Promise<boolean> {
  const underWay = UNDER_WAY.get(settings);
  if (underWay !== undefined) return underWay;
  const found = new RelayConnection(relayWay(settings))
    .check(PATIENCE)
    .then(
      () => true,
      () => false,
    )
    .finally(() => UNDER_WAY.delete(settings));
  UNDER_WAY.set(settings, found);
  return found;
}

/** Whether something at a port greets as a mail server does (RFC 5321, section 3.1), within two seconds. */
function greets(host: string, port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = connectTcp({
      host: host === "0.0.0.0" ? "127.0.0.1" : host,
      port,
      timeout: 2000,
    });
    const answer = (well: boolean): void => {
      socket.destroy();
      resolve(well);
    };
    socket.once("data", (data) => {
      socket.write("QUIT\r\n");
      answer(data.toString("latin1").startsWith("220"));
    });
    socket.once("timeout", () => answer(false));
    socket.once("error", () => answer(false));
  });
}
