import { readSettings } from "@amigo/server/settings";
import { startAmigo } from "@amigo/server/startAmigo";

/** A worker of Amigo's in a process of its own, which tells its peak memory in MB when it is asked. */
const [databaseUrl = "", port = "", connections = "", data = ""] = process.argv.slice(2);
const amigo = await startAmigo(
  readSettings({
    AMIGO_LOG: process.env.AMIGO_LOG ?? "silent",
    AMIGO_DATABASE_URL: databaseUrl,
    AMIGO_RELAY: `smtp://127.0.0.1:${port}`,
    AMIGO_ROLES: "worker",
    AMIGO_CONNECTIONS: connections,
    AMIGO_DATA: data,
  }),
);
process.on("message", (wanted: { do: "memory" | "end" }) => {
  if (wanted.do === "memory") process.send?.({ memory: process.resourceUsage().maxRSS / 1024 });
  else void amigo.close().then(() => process.exit(0));
});
process.send?.({ ready: true });
