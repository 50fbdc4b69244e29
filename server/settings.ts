import { isIP } from "node:net";
import * as z from "zod";
import { givenSettings, heldBy } from "./givenSettings";

const port = (fallback: number) => z.coerce.number().int().min(1).max(65535).default(fallback);

/** Network addresses with commas between. */
const addresses = () =>
  z
    .string()
    .default("")
    .transform((text) =>
      text
        .split(",")
        .map((one) => one.trim())
        .filter((one) => one !== ""),
    )
    .refine(
      (all) => all.every((one) => isIP(one) !== 0),
      "must be IP addresses with commas between",
    );

const Environment = z.object({
  AMIGO_PORT: port(8080),
  AMIGO_HOST: z.string().default("127.0.0.1"),
  AMIGO_SMTP_PORT: port(2525),
  AMIGO_SMTP_HOST: z.string().default("127.0.0.1"),
  AMIGO_SUBMISSION_PORT: port(2587),
  AMIGO_MAILTOWN_PORT: port(8025),
  AMIGO_MAILTOWN_SMTP_PORT: port(2526),
  AMIGO_DATA: z.string().min(1).default("./.amigo"),
  AMIGO_DATABASE_URL: z.string().regex(/^postgres(ql)?:\/\//, "must start with postgres://"),
  AMIGO_DATABASE_DIRECT_URL: z
    .string()
    .regex(/^postgres(ql)?:\/\//, "must start with postgres://")
    .optional(),
  AMIGO_DATABASE_CONNECTIONS: z.coerce.number().int().min(4).max(500).default(12),
  AMIGO_IMPORT_MEMORY: z.coerce.number().int().min(256).max(65_536).default(1024),
  AMIGO_RELAY: z
    .string()
    .regex(/^smtps?:\/\//, "must start with smtp:// or smtps://")
    .optional(),
  AMIGO_RELAY_TLS: z.enum(["offered", "required", "unverified"]).default("offered"),
  AMIGO_RELAY_LOGIN_IN_CLEAR: z.enum(["yes", "no"]).default("no"),
  AMIGO_RELAY_HELO: z
    .string()
    .regex(/^[a-z\d](?:[a-z\d.-]*[a-z\d])?$/i, "must be the name of a machine")
    .optional(),
  AMIGO_URL: z.url().optional(),
  AMIGO_DKIM_KEY: z.string().optional(),
  AMIGO_LOG: z.enum(["trace", "debug", "info", "warn", "error", "silent"]).default("info"),
  AMIGO_LOG_FILE: z.string().min(1).optional(),
  AMIGO_METRICS_PORT: z.coerce.number().int().min(1).max(65_535).optional(),
  AMIGO_METRICS_HOST: z.string().default("127.0.0.1"),
  AMIGO_BACKUPS: z.string().min(1).optional(),
  AMIGO_BACKUPS_KEEP: z.coerce.number().int().min(1).max(3650).default(14),
  AMIGO_SEND_PER_MINUTE: z.coerce.number().int().min(0).default(0),
  AMIGO_DOMAIN_PER_MINUTE: z.coerce.number().int().min(0).default(0),
  AMIGO_FORM_PER_MINUTE: z.coerce.number().int().min(1).default(60),
  AMIGO_CONNECTIONS: z.coerce.number().int().min(1).max(100).default(5),
  AMIGO_CLAIM_SECONDS: z.coerce.number().int().min(2).max(3600).default(60),
  AMIGO_TLS_KEY: z.string().optional(),
  AMIGO_TLS_CERT: z.string().optional(),
  AMIGO_MAIL_FRONT: addresses(),
  AMIGO_MAIL_FRONT_NAME: z.string().default(""),
  AMIGO_MAIL_PROXY: addresses(),
  AMIGO_ROLES: z.string().default("web,mail,worker"),
  AMIGO_WATCHED: z.string().optional(),
  AMIGO_ALLOWED_HOSTS: z.string().default(""),
  AMIGO_SHELF_GB: z.coerce.number().min(0).max(1_000_000).default(50),
  AMIGO_SHELF_FILE_MB: z.coerce.number().min(1).max(2048).default(2048),
  AMIGO_SHELF_STORE: z
    .url({ protocol: /^https?$/ })
    .regex(/^https?:\/\/[^/]+\/[^/?#%]+[^?#%]*$/, "must end with the name of the bucket")
    .optional(),
  AMIGO_SHELF_STORE_KEY: z.string().optional(),
  AMIGO_SHELF_STORE_SECRET: z.string().optional(),
  AMIGO_SHELF_STORE_REGION: z.string().default("us-east-1"),
  AMIGO_SCANNER: z
    .string()
    .regex(/^clamd:\/\/[^/:]+(:\d{1,5})?\/?$/, "must be clamd://host:port")
    .optional(),
  AMIGO_SPAM_FILTER: z.url({ protocol: /^https?$/ }).optional(),
  AMIGO_PROXIED: z.enum(["yes", "no"]).default("no"),
  AMIGO_DEMO: z.enum(["yes", "no"]).default("no"),
});

export type ProcessRole = "web" | "mail" | "worker";

/** Everything that a process is told by its environment. Ports are TCP ports. */
export interface Settings {
  port: number;
  host: string;
  smtpPort: number;
  smtpHost: string;
  submissionPort: number;
  mailtownPort: number;
  data: string;
  databaseUrl: string;
  /** The database itself, where `databaseUrl` is a pooler of connections: for what needs a connection of its own for long. */
  databaseDirectUrl: string;
  /** How many connections to the database a process may have at once for requests and mail. */
  databaseConnections: number;
  /** How many megabytes of memory an import, or another change of everybody, may take before it is ended. */
  importMemory: number;
  /** The relay as an `smtp://` or `smtps://` address. */
  relay: string;
  /** Whether TLS is used where the relay offers it, is required, or is used without a look at the certificate. */
  relayTls: "offered" | "required" | "unverified";
  /** Whether the relay's password may be sent without TLS. */
  relayLoginInClear: boolean;
  /** The name said to the relay in EHLO; undefined for the machine's. */
  relayHelo: string | undefined;
  /** The address by which people reach the pages, without a slash at its end. */
  url: string;
  tls: { keyFile: string; certFile: string } | undefined;
  /** The file with the key that signs lists' mail; undefined for one of our own making in the data folder. */
  dkimKey: string | undefined;
  /** From which level on lines are written to the log. */
  logLevel: "trace" | "debug" | "info" | "warn" | "error" | "silent";
  /** The file of the log; undefined for standard output. */
  logFile: string | undefined;
  /** Where the metrics are served; undefined for nowhere. */
  metrics: { port: number; host: string } | undefined;
  /** The folder for the backups that are made every day, and how many of them are kept; undefined where none are made. */
  backups: { folder: string; keep: number } | undefined;
  /** How many copies may leave in a minute, in all and to one domain; 0 for no limit. */
  perMinute: number;
  domainPerMinute: number;
  /** How many answers to sign-up forms one network address may send in a minute. */
  formPerMinute: number;
  /** How many connections to the relay are kept. */
  connections: number;
  /** After how many seconds without a sign of life the copies that a worker had claimed are free for another. */
  claimSeconds: number;
  /** The addresses of our own mail servers, which take mail first and say by XFORWARD from whom it came. */
  mailFronts: ReadonlySet<string>;
  /** By what name those sign what they found out about a mail (Authentication-Results, RFC 8601); empty where nothing of it counts. */
  mailFrontName: string;
  /** The addresses of proxies that begin each mail connection with a PROXY line. */
  mailProxies: ReadonlySet<string>;
  roles: ReadonlySet<ProcessRole>;
  /** The folder whose files sources may watch; undefined for none. */
  watched: string | undefined;
  /** Hosts, as `host` or `host:port`, that sources may read from though they are in the own network. */
  allowedHosts: ReadonlySet<string>;
  /** How many gigabytes the files on all shelves may have together. */
  shelfGigabytes: number;
  /** How many megabytes one file on a shelf may have. */
  shelfFileMegabytes: number;
  /** A virus scanner that looks at files before others see them; undefined for none. */
  scanner: { host: string; port: number } | undefined;
  /** A spam filter that is asked about mail from outside, by its HTTP address; undefined for none. */
  spamFilter: string | undefined;
  /** The store of objects for the files on shelves, by S3's protocol; undefined where they are in the database. */
  shelfStore: ShelfStore | undefined;
  /** Whether a proxy of one's own stands in front, whose last `X-Forwarded-For` entry is the caller's network address. */
  proxied: boolean;
  demo: boolean;
}

/**
 * Reads the settings from the environment, and those that hold passwords from files, too.
 *
 * @throws Error that names every faulty variable, what it holds and what it should be
 */
export function readSettings(environment: Record<string, string | undefined>): Settings {
  const given = givenSettings(environment);
  const parsed = Environment.safeParse(given);
  if (!parsed.success) {
    const lines = parsed.error.issues.map(({ path, message }) => {
      const name = path.join(".");
      return `  ${name}: ${message} (${heldBy(name, given[name])})`;
    });
    throw new Error(`These settings are not right:\n${lines.join("\n")}`);
  }
  const env = parsed.data;
  const roles = new Set(
    env.AMIGO_ROLES.split(",")
      .map((role) => role.trim())
      .filter(
        (role): role is ProcessRole => role === "web" || role === "mail" || role === "worker",
      ),
  );
  if (roles.size === 0)
    throw new Error(
      `These settings are not right:\n  AMIGO_ROLES: name at least one of web, mail, worker (it is ${JSON.stringify(env.AMIGO_ROLES)})`,
    );
  if ((env.AMIGO_TLS_KEY === undefined) !== (env.AMIGO_TLS_CERT === undefined))
    throw new Error(
      "These settings are not right:\n  AMIGO_TLS_KEY and AMIGO_TLS_CERT: set both or neither",
    );
  return {
    port: env.AMIGO_PORT,
    host: env.AMIGO_HOST,
    smtpPort: env.AMIGO_SMTP_PORT,
    smtpHost: env.AMIGO_SMTP_HOST,
    submissionPort: env.AMIGO_SUBMISSION_PORT,
    mailtownPort: env.AMIGO_MAILTOWN_PORT,
    data: env.AMIGO_DATA,
    databaseUrl: env.AMIGO_DATABASE_URL,
    databaseDirectUrl: env.AMIGO_DATABASE_DIRECT_URL ?? env.AMIGO_DATABASE_URL,
    databaseConnections: env.AMIGO_DATABASE_CONNECTIONS,
    importMemory: env.AMIGO_IMPORT_MEMORY,
    // The demo's mail goes to Mailtown, a real house's to the machine's own mail server.
    relay:
      env.AMIGO_RELAY ??
      `smtp://127.0.0.1:${env.AMIGO_DEMO === "yes" ? env.AMIGO_MAILTOWN_SMTP_PORT : 25}`,
    relayTls: env.AMIGO_RELAY_TLS,
    relayLoginInClear: env.AMIGO_RELAY_LOGIN_IN_CLEAR === "yes",
    relayHelo: env.AMIGO_RELAY_HELO,
    url: (env.AMIGO_URL ?? `http://localhost:${env.AMIGO_PORT}`).replace(/\/+$/, ""),
    tls:
      env.AMIGO_TLS_KEY !== undefined && env.AMIGO_TLS_CERT !== undefined
        ? { keyFile: env.AMIGO_TLS_KEY, certFile: env.AMIGO_TLS_CERT }
        : undefined,
    dkimKey: env.AMIGO_DKIM_KEY,
    ...{ logLevel: env.AMIGO_LOG, logFile: env.AMIGO_LOG_FILE },
    ...{ metrics: metricsOf(env), backups: backupsOf(env) },
    perMinute: env.AMIGO_SEND_PER_MINUTE,
    domainPerMinute: env.AMIGO_DOMAIN_PER_MINUTE,
    connections: env.AMIGO_CONNECTIONS,
    formPerMinute: env.AMIGO_FORM_PER_MINUTE,
    claimSeconds: env.AMIGO_CLAIM_SECONDS,
    mailFronts: new Set(env.AMIGO_MAIL_FRONT),
    mailFrontName: env.AMIGO_MAIL_FRONT_NAME.trim().toLowerCase(),
    mailProxies: new Set(env.AMIGO_MAIL_PROXY),
    roles,
    watched: env.AMIGO_WATCHED,
    allowedHosts: new Set(
      env.AMIGO_ALLOWED_HOSTS.split(",")
        .map((host) => host.trim().toLowerCase())
        .filter((host) => host !== ""),
    ),
    shelfGigabytes: env.AMIGO_SHELF_GB,
    shelfFileMegabytes: env.AMIGO_SHELF_FILE_MB,
    spamFilter: env.AMIGO_SPAM_FILTER,
    shelfStore: shelfStoreOf(env),
    scanner: scannerOf(env.AMIGO_SCANNER),
    proxied: env.AMIGO_PROXIED === "yes",
    demo: env.AMIGO_DEMO === "yes",
  };
}

function metricsOf(env: z.output<typeof Environment>): Settings["metrics"] {
  return env.AMIGO_METRICS_PORT === undefined
    ? undefined
    : { port: env.AMIGO_METRICS_PORT, host: env.AMIGO_METRICS_HOST };
}

function backupsOf(env: z.output<typeof Environment>): Settings["backups"] {
  return env.AMIGO_BACKUPS === undefined
    ? undefined
    : { folder: env.AMIGO_BACKUPS, keep: env.AMIGO_BACKUPS_KEEP };
}

function scannerOf(named: string | undefined): Settings["scanner"] {
  if (named === undefined) return undefined;
  const { hostname, port } = new URL(named.replace(/^clamd:/, "tcp:"));
  return { host: hostname, port: Number(port) || 3310 };
}

/** Where a store of objects is: the server, the bucket, what stands before all keys, and what lets us in. */
export interface ShelfStore {
  endpoint: string;
  bucket: string;
  /** Ends with a slash, or is empty. */
  prefix: string;
  region: string;
  key: string;
  secret: string;
}

function shelfStoreOf(env: z.output<typeof Environment>): ShelfStore | undefined {
  if (env.AMIGO_SHELF_STORE === undefined) return undefined;
  const [key, secret] = [env.AMIGO_SHELF_STORE_KEY, env.AMIGO_SHELF_STORE_SECRET];
  if (key === undefined || secret === undefined)
    throw new Error(
      "These settings are not right:\n  AMIGO_SHELF_STORE: set AMIGO_SHELF_STORE_KEY and AMIGO_SHELF_STORE_SECRET beside it",
    );
  const { origin, pathname } = new URL(env.AMIGO_SHELF_STORE);
  const [bucket = "", ...folders] = decodeURI(pathname)
    .split("/")
    .filter((part) => part !== "");
  return {
    endpoint: origin,
    bucket,
    prefix: folders.map((folder) => `${folder}/`).join(""),
    region: env.AMIGO_SHELF_STORE_REGION,
    key,
    secret,
  };
}
