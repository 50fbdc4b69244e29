import { mkdirSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { demoHouse } from "@amigo/demo/demoHouse";
import { startMailtown, type RunningMailtown } from "@amigo/mailtown/startMailtown";
import type { Directory } from "@amigo/mailtown/mailboxes";
import { readSettings } from "@amigo/server/settings";
import { startAmigo, type RunningAmigo } from "@amigo/server/startAmigo";
import { DEMO_HOUSE, NO_HOUSE } from "@amigo/server/testing/fillings";
import { freePorts } from "@amigo/server/testing/freePorts";
import { makeTestDatabase } from "@amigo/server/testing/testDatabase";

/** A whole demo house with its Mailtown, on ports and data of its own. */
export interface Stack {
  url: string;
  amigo: RunningAmigo;
  town: RunningMailtown;
  /** The folder whose files its sources may watch. */
  watched: string;
  close(): Promise<void>;
}

/** Starts the demo house, or an empty one, as `npm start` does. */
export async function startStack({ demo = true } = {}): Promise<Stack> {
  const [web = 0, smtp = 0, submission = 0, page = 0, townSmtp = 0] = await freePorts(5);
  const database = await makeTestDatabase({ filling: demo ? DEMO_HOUSE : NO_HOUSE });
  const folder = mkdtempSync(join(tmpdir(), "amigo-e2e-"));
  const directory = JSON.parse(
    readFileSync(new URL("../demo/mailtown.json", import.meta.url), "utf8"),
  ) as Directory;
  const watched = join(folder, "watched");
  mkdirSync(watched);
  const town = await startMailtown({
    smtpPort: townSmtp,
    pagePort: page,
    amigoPort: smtp,
    folder: join(folder, "mailtown"),
    directory,
  });
  const url = `http://localhost:${web}`;
  const amigo = await startAmigo(
    readSettings({
      AMIGO_LOG: process.env.AMIGO_LOG ?? "silent",
      AMIGO_PORT: String(web),
      AMIGO_SMTP_PORT: String(smtp),
      AMIGO_SUBMISSION_PORT: String(submission),
      AMIGO_MAILTOWN_PORT: String(page),
      AMIGO_MAILTOWN_SMTP_PORT: String(townSmtp),
      AMIGO_DATABASE_URL: database.url,
      AMIGO_URL: url,
      AMIGO_WATCHED: watched,
      // Where a story stands in for a web server of somebody else's.
      AMIGO_ALLOWED_HOSTS: "127.0.0.1",
      AMIGO_DEMO: demo ? "yes" : "no",
    }),
    { demo: demo ? demoHouse : undefined },
  );
  return {
    url,
    amigo,
    town,
    watched,
    close: async () => {
      await amigo.close();
      await town.close();
      await database.drop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
