import { setUpCode } from "./accounts/setUpCode";
import { readSettings, type Settings } from "./settings";
import { startAmigo } from "./startAmigo";
import { house } from "./db/schema/house";

/** The program: reads the settings, loads the demo house where it is asked for and missing, runs until it is told to stop. */
async function main(): Promise<void> {
  const settings: Settings = readSettings(process.env);
  const amigo = await startAmigo(settings);
  if (settings.demo) {
    const { loadDemo } = await import("@amigo/demo/loadDemo");
    await loadDemo(amigo.context.db);
  }
  if ((await amigo.context.db.select({ id: house.id }).from(house)).length === 0)
    console.log(
      `\nSet-up code: ${setUpCode(amigo.context.dkim)}  (the first page asks for it when it is opened from another machine)`,
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

main().catch((failure: unknown) => {
  console.error(failure instanceof Error ? failure.message : failure);
  process.exit(1);
});
