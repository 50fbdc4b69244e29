import { execFileSync, spawn } from "node:child_process";
import {
  chmodSync,
  chownSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { freePorts } from "./freePorts";
import { answers, type MailSystem } from "./mailSystem";
import { until } from "./testHouse";

/** Where `npm test` has unpacked it. */
const UNPACKED = fileURLToPath(
  new URL("../../node_modules/.cache/second-mail-system", import.meta.url),
);
/** Users that the machine has anyway: it wants one of its own, and a group for its queue. */
const OWNER = "Debian-exim";
const GROUP = "mail";

/**
 * Its settings (Postfix). Mail to `lists.copperwheel.example` goes to the house; of the addresses of its own domain `gone…` does
 * not exist, `full…` has no room and `slow…` is put off again and again; all others end in one mailbox.
 */
function settings(folder: string, uid: string): string {
  return `
compatibility_level = 3.6
queue_directory = ${folder}/queue
command_directory = ${folder}/system/usr/sbin
daemon_directory = ${folder}/system/usr/lib/postfix/sbin
shlib_directory = ${folder}/system/usr/lib/postfix
data_directory = ${folder}/data
meta_directory = ${folder}/settings
mail_owner = ${OWNER}
setgid_group = ${GROUP}
import_environment = LD_LIBRARY_PATH MAIL_CONFIG
export_environment = MAIL_CONFIG LD_LIBRARY_PATH
maillog_file = ${folder}/log
maillog_file_prefixes = ${tmpdir()}
inet_interfaces = 127.0.0.1
inet_protocols = ipv4
myhostname = mx.fernpost.example
mydestination =
mynetworks = 127.0.0.0/8
alias_maps =
virtual_mailbox_domains = fernpost.example
virtual_mailbox_base = ${folder}/boxes
virtual_mailbox_maps = regexp:${folder}/settings/boxes
virtual_uid_maps = static:${uid}
virtual_gid_maps = static:${uid}
virtual_minimum_uid = 1
transport_maps = regexp:${folder}/settings/ways
smtpd_reject_unlisted_recipient = no
smtpd_tls_cert_file = ${folder}/settings/cert.pem
smtpd_tls_key_file = ${folder}/settings/key.pem
smtpd_tls_security_level = may
smtpd_tls_loglevel = 1
delay_warning_time = 1s
minimal_backoff_time = 1s
maximal_backoff_time = 2s
queue_run_delay = 1s
`;
}

/** Where it brings which mail. */
const waysTo = (housePort: number): string =>
  [
    `/@lists\\.copperwheel\\.example$/ smtp:[127.0.0.1]:${housePort}`,
    "/^gone/ error:5.1.1 no such user here",
    "/^full/ error:5.2.2 mailbox full",
    "/^slow/ retry:4.3.0 busy, try later",
    "",
  ].join("\n");

const PROGRAMS = (port: number): string =>
  [
    `127.0.0.1:${port} inet n - n - - smtpd`,
    "pickup unix n - n 60 1 pickup",
    "cleanup unix n - n - 0 cleanup",
    "qmgr unix n - n 1 1 qmgr",
    "tlsmgr unix - - n 1000? 1 tlsmgr",
    "rewrite unix - - n - - trivial-rewrite",
    "bounce unix - - n - 0 bounce",
    "defer unix - - n - 0 bounce",
    "trace unix - - n - 0 bounce",
    "proxymap unix - - n - - proxymap",
    "smtp unix - - n - - smtp",
    "error unix - - n - - error",
    "retry unix - - n - - error",
    "virtual unix - n n - - virtual",
    "postlog unix-dgram n - n - 1 postlogd",
    "",
  ].join("\n");

/** Of its queue's folders, those that are its owner's alone. */
const QUEUES = "active bounce corrupt defer deferred flush hold incoming private saved trace";

/** Starts a second mail system that we did not write, from where it is unpacked, with a certificate that it has signed itself. */
export async function startSecondMailSystem(): Promise<MailSystem> {
  const [port = 0] = await freePorts(1);
  const folder = mkdtempSync(join(tmpdir(), "amigo-second-"));
  const idOf = (flag: string): string =>
    execFileSync("id", [flag, OWNER], { encoding: "utf8" }).trim();
  const [uid, gid] = [Number(idOf("-u")), Number(idOf("-g"))];
  const mail = Number(
    execFileSync("getent", ["group", GROUP], { encoding: "utf8" }).split(":")[2] ?? "",
  );
  chmodSync(folder, 0o755);
  cpSync(UNPACKED, join(folder, "system"), { recursive: true });
  for (const name of ["settings", "queue", "data", "boxes", "queue/pid"])
    mkdirSync(join(folder, name));
  const own = (name: string, mode: number, group = gid): void => {
    mkdirSync(join(folder, name), { recursive: true });
    chownSync(join(folder, name), uid, group);
    chmodSync(join(folder, name), mode);
  };
  for (const name of QUEUES.split(" ")) own(`queue/${name}`, 0o700);
  own("queue/maildrop", 0o730, mail);
  own("queue/public", 0o710, mail);
  own("data", 0o700);
  own("boxes", 0o700);
  const put = (name: string, text: string): void =>
    writeFileSync(join(folder, "settings", name), text);
  put("main.cf", settings(folder, String(uid)));
  put("master.cf", PROGRAMS(port));
  put("boxes", "/@fernpost\\.example$/ mailbox\n");
  put("ways", waysTo(25));
  makeCertificate(join(folder, "settings"));
  const child = spawn(
    join(folder, "system/usr/lib/postfix/sbin/master"),
    ["-c", join(folder, "settings"), "-d"],
    {
      cwd: folder,
      stdio: "ignore",
      env: {
        ...process.env,
        LD_LIBRARY_PATH: join(folder, "system/usr/lib/postfix"),
        MAIL_CONFIG: join(folder, "settings"),
      },
    },
  );
  const log = (): string =>
    existsSync(join(folder, "log")) ? readFileSync(join(folder, "log"), "utf8") : "";
  const ended = new Promise<void>((resolve) => {
    child.once("exit", () => resolve());
  });
  await until(
    `the second mail system; its log:\n${log()}`,
    async () => child.exitCode !== null || (await answers(port)),
    (there) => there,
  );
  if (child.exitCode !== null) throw new Error(`The second mail system did not start:\n${log()}`);
  return {
    port,
    log,
    mailbox: join(folder, "boxes/mailbox"),
    knowHouse: (housePort) => put("ways", waysTo(housePort)),
    close: async () => {
      child.kill("SIGTERM");
      await ended;
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

function makeCertificate(folder: string): void {
  execFileSync(
    "openssl",
    [
      ...["req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2"],
      ...["-subj", "/CN=mx.fernpost.example"],
      ...["-keyout", join(folder, "key.pem"), "-out", join(folder, "cert.pem")],
    ],
    { stdio: "ignore" },
  );
}
