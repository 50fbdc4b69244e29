import { setUpCode } from "./accounts/setUpCode";
import { loadHouse } from "./db/houseQueries";
import type { DemoHouse } from "./demoHouse";
import { aboutSettings } from "./aboutSettings";
import { readSettings } from "./settings";
import { startAmigo } from "./startAmigo";

/**
 * Runs the program until it is told to stop: reads the settings, starts, and loads the demo house where it is given and the
 * database is empty. Ends the process with 1 where it can't start.
 */
export function runAmigo(demo?: DemoHouse): void {
  run(demo).catch((failure: unknown) => {
    process.stderr.write(`${failure instanceof Error ? failure.message : String(failure)}\n`);
    process.exit(1);
  });
}

async function run(demo: DemoHouse | undefined): Promise<void> {
  const settings = readSettings(process.env);
  if (settings.demo && demo === undefined)
    throw new Error(
      "AMIGO_DEMO is set, but this program has no demo house. Start it with npm start, or leave AMIGO_DEMO out.",
    );
  const amigo = await startAmigo(settings, { demo: settings.demo ? demo : undefined });
  const { db, houseKey } = amigo.context;
  const house = await loadHouse(db);
  if (house !== undefined && house.demo !== settings.demo) {
    await amigo.close();
    throw new Error(
      house.demo
        ? "The database holds the demo house, but AMIGO_DEMO isn't set. Set AMIGO_DEMO=yes, or give a real house a database of its own (AMIGO_DATABASE_URL)."
        : `AMIGO_DEMO says that this is the demo house, but the database holds ${house.name}. Start without AMIGO_DEMO: in the demo, mail goes to made-up mailboxes alone.`,
    );
  }
  if (settings.demo) await demo?.load(db);
  if (house === undefined && !settings.demo)
    process.stdout.write(
      `\nSet-up code: ${setUpCode(houseKey)}  (the first page asks for it when it is opened from another machine)\n`,
    );
  const { log } = amigo.context;
  log.info({ ...aboutSettings(settings), ports: amigo.ports }, "Amigo has started");
  let stopping = false;
  const stop = (): void => {
    if (stopping) return;
    stopping = true;
    const began = Date.now();
    const close = async (): Promise<void> => {
      await amigo.close();
      log.info({ ms: Date.now() - began }, "Amigo has stopped");
    };
    close().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  process.on("SIGTERM", stop);
  process.on("SIGINT", stop);
  process.send?.({ ready: true, ports: amigo.ports });
}
