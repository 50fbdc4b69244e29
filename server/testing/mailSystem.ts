import { execFileSync, spawn } from "node:child_process";
import {
  chownSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { freePorts } from "./freePorts";

/** A mail system that we did not write: Debian's, on loopback, for one made-up provider. */
export interface MailSystem {
  port: number;
  /** The file with all mailboxes in one, as the mail system writes it (RFC 4155). */
  mailbox: string;
  /** Says on which port the house takes mail. */
  knowHouse(port: number): void;
  /** What it wrote in its log, for a test that fails. */
  log(): string;
  close(): Promise<void>;
}

/**
 * Its settings. Mail to `lists.copperwheel.example` goes to the house; everything else is its own. Of its own addresses `gone…`
 * does not exist, `full…` has no room and `slow…` is put off again and again; all others end in one mailbox.
 */
function settings(folder: string, port: number): string {
  return `
primary_hostname = mx.oakmail.example
spool_directory = ${folder}/spool
log_file_path = ${folder}/log_%s
pid_file_path = ${folder}/pid
local_interfaces = 127.0.0.1
daemon_smtp_ports = ${port}
keep_environment =
add_environment =
disable_ipv6 = true
host_lookup =
rfc1413_query_timeout = 0s
tls_advertise_hosts = *
smtp_accept_max = 0
smtp_accept_queue_per_connection = 0
delay_warning = 1s
delay_warning_condition = yes
acl_smtp_rcpt = accept
acl_smtp_data = accept

begin acl
accept:
  accept

begin routers
house:
  driver = manualroute
  domains = lists.copperwheel.example
  route_list = * 127.0.0.1
  self = send
  transport = house
gone:
  driver = redirect
  local_parts = ^gone
  data = :fail: 550 5.1.1 no such user here
  allow_fail
full:
  driver = redirect
  local_parts = ^full
  data = :fail: 552 5.2.2 mailbox full
  allow_fail
slow:
  driver = redirect
  local_parts = ^slow
  data = :defer: 451 4.3.0 busy, try later
  allow_defer
kept:
  driver = accept
  transport = box

begin transports
house:
  driver = smtp
  port = \${readfile{${folder}/house}{}}
  allow_localhost
box:
  driver = appendfile
  file = ${folder}/mailbox
  envelope_to_add
  return_path_add

begin retry
* * F,1h,1s
`;
}

/** Starts it as a user of its own where we are root, else as ourselves: it needs no rights beyond its folder. */
export async function startMailSystem(): Promise<MailSystem> {
  const [port = 0] = await freePorts(1);
  const folder = mkdtempSync(join(tmpdir(), "amigo-mail-system-"));
  const idOf = (flag: string): number =>
    Number(execFileSync("id", [flag, "Debian-exim"], { encoding: "utf8" }));
  const owner = process.getuid?.() === 0 ? { uid: idOf("-u"), gid: idOf("-g") } : {};
  writeFileSync(join(folder, "settings"), settings(folder, port));
  writeFileSync(join(folder, "house"), "25");
  mkdirSync(join(folder, "spool"));
  if (owner.uid !== undefined)
    for (const path of [folder, join(folder, "settings"), join(folder, "spool")])
      chownSync(path, owner.uid, owner.gid);
  const child = spawn("/usr/sbin/exim4", ["-C", join(folder, "settings"), "-bdf", "-q1s"], {
    ...owner,
    cwd: folder,
    stdio: "ignore",
    // A group of its own, so that the processes which it starts for single mails end with it.
    detached: true,
  });
  const log = (): string =>
    ["log_main", "log_panic", "log_reject"]
      .map((name) => join(folder, name))
      .filter((path) => existsSync(path))
      .map((path) => readFileSync(path, "utf8"))
      .join("\n");
  for (let tries = 0; !(await answers(port)); tries++) {
    if (tries === 100 || child.exitCode !== null)
      throw new Error(`The mail system did not start:\n${log()}`);
    await new Promise((resolve) => {
      setTimeout(resolve, 50);
    });
  }
  return {
    port,
    log,
    mailbox: join(folder, "mailbox"),
    knowHouse: (item) => writeFileSync(join(folder, "house"), String(item)),
    close: async () => {
      const group = -(child.pid ?? 0);
      process.kill(group, "SIGTERM");
      // What it started for single mails outlives it for a moment, and writes files until it ends.
      for (let tries = 0; isRunning(group); tries++) {
        if (tries === 100) process.kill(group, "SIGKILL");
        await new Promise((resolve) => {
          setTimeout(resolve, 50);
        });
      }
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Whether any process of a group (a negative id) is still there. */
function isRunning(group: number): boolean {
  try {
    process.kill(group, 0);
    return true;
  } catch {
    return false;
  }
}

/** Whether something listens at a port of this machine. */
export function answers(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = connect(port, "127.0.0.1", () => {
      socket.destroy();
      resolve(true);
    });
    socket.once("error", () => resolve(false));
  });
}
