import { liveIn } from "./liveIn";

/** Lets the demo house, which is running and new, live through its first weeks; then it says that it is ready and ends. */
async function main(): Promise<void> {
  const { AMIGO_PORT = "8080", AMIGO_MAILTOWN_PORT = "8025" } = process.env;
  await liveIn(
    {
      url: `http://127.0.0.1:${AMIGO_PORT}`,
      mailtown: `http://127.0.0.1:${AMIGO_MAILTOWN_PORT}`,
    },
    (what) => console.log(`  ${what} …`),
  );
}

main().then(
  () => process.send?.({ ready: true }, () => process.exit(0)) ?? process.exit(0),
  (failure: unknown) => {
    console.error(failure instanceof Error ? failure.message : failure);
    process.exit(1);
  },
);
