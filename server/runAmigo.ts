import { setUpCode } from "./accounts/setUpCode";
import { loadHouse } from "./db/houseQueries";
import type { DemoHouse } from "./demoHouse";
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
  const { db, dkim } = amigo.context;
  if (settings.demo) await demo?.load(db);
  if ((await loadHouse(db)) === undefined)
    process.stdout.write(
      `\nSet-up code: ${setUpCode(dkim)}  (the first page asks for it when it is opened from another machine)\n`,
    );
  let stopping = false;
  const stop = (): void => {
    if (stopping) return;
    stopping = true;
    amigo.close().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  process.on("SIGTERM", stop);
  process.on("SIGINT", stop);
  process.send?.({ ready: true, ports: amigo.ports });
}
