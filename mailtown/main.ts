import { readFileSync } from "node:fs";
import { join } from "node:path";
import * as z from "zod";
import type { Directory } from "./mailboxes";
import { startMailtown } from "./startMailtown";

const port = (fallback: number) => z.coerce.number().int().min(1).max(65535).default(fallback);
const env = z
  .object({
    AMIGO_MAILTOWN_PORT: port(8025),
    AMIGO_MAILTOWN_SMTP_PORT: port(2526),
    AMIGO_SMTP_PORT: port(2525),
    AMIGO_DATA: z.string().default("./.amigo"),
    AMIGO_MAILTOWN_DIRECTORY: z.string(),
  })
  .parse(process.env);

startMailtown({
  smtpPort: env.AMIGO_MAILTOWN_SMTP_PORT,
  pagePort: env.AMIGO_MAILTOWN_PORT,
  amigoPort: env.AMIGO_SMTP_PORT,
  folder: join(env.AMIGO_DATA, "mailtown"),
  directory: JSON.parse(readFileSync(env.AMIGO_MAILTOWN_DIRECTORY, "utf8")) as Directory,
}).then(
  (town) => {
    const stop = (): void => {
      town.close().then(
        () => process.exit(0),
        () => process.exit(1),
      );
    };
    process.on("SIGTERM", stop);
    process.on("SIGINT", stop);
    process.send?.({ ready: true, ports: town.ports });
  },
  (failure: unknown) => {
    console.error(failure instanceof Error ? failure.message : failure);
    process.exit(1);
  },
);
