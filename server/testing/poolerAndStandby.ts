import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { chmodSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { createServer, connect, type Socket } from "node:net";
import { join } from "node:path";
import pg from "pg";
import { own, program, startPostgres } from "../../scripts/postgres.mjs";
import { freePorts } from "./freePorts";

const HOST = "127.0.0.1";
const isRoot = process.getuid?.() === 0;

/** A database server with a standby that has all that the server has acknowledged, an address that moves from one to the other, and a pooler before it. */
export interface Pair {
  /** An address of a database by way of the address that moves. */
  directUrl(database: string): string;
  /** The same address by way of the pooler, for the role of a given address. */
  pooledUrl(directUrl: string): string;
  /** Lets the server die, makes the standby the server, and moves the address. */
  failOver(): void;
  close(): Promise<void>;
}

/**
 * Starts two PostgreSQL servers with synchronous streaming replication and PgBouncer in transaction mode before them, all on loopback.
 *
 * @param users the roles with their passwords that come by way of the pooler
 */
export async function startPair(
  folder: string,
  users: Readonly<Record<string, string>>,
): Promise<Pair> {
  chmodSync(folder, 0o755);
  const first = await startPostgres(join(folder, "first"));
  const firstUrl = new URL(first.url("postgres"));
  const [standbyPort = 0, movingPort = 0, poolerPort = 0] = await freePorts(3);
  const standby = join(folder, "standby");
  const pgpass = { PGPASSWORD: firstUrl.password };
  mkdirSync(standby, { mode: 0o700 });
  own(standby);
  must(
    program(
      "pg_basebackup",
      ["-D", standby, "-h", HOST, "-p", firstUrl.port, "-U", firstUrl.username].concat([
        ...["-X", "stream", "-R", "-c", "fast", "--no-sync"],
      ]),
      pgpass,
    ),
  );
  // The standby's own line to the server needs the password, too.
  const conf = join(standby, "postgresql.auto.conf");
  writeFileSync(
    conf,
    `${readFileSync(conf, "utf8")}\nprimary_conninfo = 'host=${HOST} port=${firstUrl.port} user=${firstUrl.username} password=${firstUrl.password}'\n`,
  );
  const control = (data: string, ...args: string[]) =>
    program("pg_ctl", [...args, "-w", "-t", "60", "-D", data]);
  must(
    program("pg_ctl", [
      ...["start", "-w", "-t", "60", "-D", standby, "-l", join(standby, "server.log")],
      ...[
        "-o",
        `-p ${standbyPort} -c listen_addresses=${HOST} -k ${standby} -c max_connections=200`,
      ],
    ]),
  );
  await waitForStandby(firstUrl.href);
  const moving = movingAddress(movingPort, Number(firstUrl.port));
  const pooler = await startPooler(folder, poolerPort, movingPort, users);
  return {
    directUrl: (database) => at(first.url(database), movingPort),
    pooledUrl: (url) => at(url, poolerPort),
    failOver() {
      must(control(join(folder, "first"), "stop", "-m", "immediate"));
      must(control(standby, "promote"));
      moving.to(standbyPort);
    },
    async close() {
      const gone = once(pooler, "exit");
      pooler.kill("SIGTERM");
      await gone;
      await moving.close();
      control(standby, "stop", "-m", "immediate");
      first.remove();
    },
  };
}

function must({ ok, output }: { ok: boolean; output: string }): void {
  if (!ok) throw new Error(output);
}

function at(url: string, port: number): string {
  const moved = new URL(url);
  moved.port = String(port);
  return moved.href;
}

/** From here on, nothing is acknowledged that the standby doesn't have. The setting stays with the server: the standby is alone later. */
async function waitForStandby(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query("alter system set synchronous_standby_names = '*'");
    await client.query("select pg_reload_conf()");
    for (;;) {
      const { rows } = await client.query<{ state: string }>(
        "select sync_state as state from pg_stat_replication",
      );
      if (rows.some(({ state }) => state === "sync")) return;
      await client.query("select pg_sleep(0.05)");
    }
  } finally {
    await client.end();
  }
}

/** A port that leads to another one, as a name or an address that moves does. */
function movingAddress(port: number, first: number) {
  let target = first;
  const open = new Set<Socket>();
  const server = createServer((near) => {
    const far = connect(target, HOST);
    for (const [one, other] of [
      [near, far],
      [far, near],
    ] as const) {
      open.add(one);
      one.pipe(other);
      one.on("error", () => other.destroy());
      one.on("close", () => {
        open.delete(one);
        other.destroy();
      });
    }
  }).listen(port, HOST);
  const cut = (): void => {
    for (const socket of open) socket.destroy();
  };
  return {
    to(next: number) {
      target = next;
      cut();
    },
    close: () =>
      new Promise<void>((resolve) => {
        server.close(() => resolve());
        cut();
      }),
  };
}

async function startPooler(
  folder: string,
  port: number,
  databasePort: number,
  users: Readonly<Record<string, string>>,
): Promise<ChildProcess> {
  const place = join(folder, "pooler");
  mkdirSync(place);
  writeFileSync(
    join(place, "users.txt"),
    Object.entries(users)
      .map(([name, password]) => `"${name}" "${password}"\n`)
      .join(""),
  );
  const conf = join(place, "pooler.ini");
  writeFileSync(
    conf,
    `[databases]
* = host=${HOST} port=${databasePort}
[pgbouncer]
listen_addr = ${HOST}
listen_port = ${port}
unix_socket_dir =
auth_type = scram-sha-256
auth_file = ${join(place, "users.txt")}
pool_mode = transaction
max_client_conn = 400
default_pool_size = 30
server_login_retry = 1
`,
  );
  own(place);
  for (const file of [conf, join(place, "users.txt")]) own(file);
  const [command, args] = isRoot
    ? ["runuser", ["-u", "postgres", "--", "/usr/sbin/pgbouncer", "-q", conf]]
    : ["/usr/sbin/pgbouncer", ["-q", conf]];
  const child = spawn(command as string, args as string[], { cwd: "/", stdio: "ignore" });
  while (!(await answers(port)))
    if (child.exitCode !== null) throw new Error(`the pooler ended with ${child.exitCode}`);
  return child;
}

function answers(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = connect(port, HOST);
    socket.once("connect", () => {
      socket.destroy();
      resolve(true);
    });
    socket.once("error", () => setTimeout(() => resolve(false), 20));
  });
}
