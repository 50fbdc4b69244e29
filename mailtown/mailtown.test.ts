import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import nodemailer from "nodemailer";
import { SMTPServer } from "smtp-server";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { Mailboxes, type Directory, type OpenedLetter } from "./mailboxes";
import { startMailtown, type RunningMailtown } from "./startMailtown";

const DIRECTORY: Directory = {
  domains: ["lettr.example", "oakmail.example"],
  listDomain: "lists.copperwheel.example",
  mailboxes: [
    { name: "Una Holm", address: "una@lettr.example" },
    { name: "Otto Quist", address: "otto@oakmail.example" },
  ],
};

const folder = mkdtempSync(join(tmpdir(), "mailtown-"));
const taken: { from: string; to: string[] }[] = [];
let lists: SMTPServer;
let town: RunningMailtown;

beforeAll(async () => {
  lists = new SMTPServer({
    authOptional: true,
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    onData: (stream, session, callback) => {
      stream.resume();
      stream.on("end", () => {
        taken.push({
          from: session.envelope.mailFrom === false ? "" : session.envelope.mailFrom.address,
          to: session.envelope.rcptTo.map(({ address }) => address),
        });
        callback();
      });
    },
  });
  await new Promise<void>((resolve) => {
    lists.listen(0, "127.0.0.1", () => resolve());
  });
  town = await startMailtown({
    smtpPort: 0,
    pagePort: 0,
    amigoPort: (lists.server.address() as AddressInfo).port,
    folder,
    directory: DIRECTORY,
  });
});
afterAll(async () => {
  await town.close();
  await new Promise<void>((resolve) => {
    lists.close(() => resolve());
  });
  rmSync(folder, { recursive: true, force: true });
});

async function deliver(to: string, text = "Hello."): Promise<void> {
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: town.ports.smtp,
    ignoreTLS: true,
  });
  try {
    await transport.sendMail({
      envelope: { from: "list+b.1@lists.copperwheel.example", to },
      from: "Juno Abara <list@lists.copperwheel.example>",
      replyTo: "juno.abara@lettr.example",
      to: "list@lists.copperwheel.example",
      subject: "Hello <b>you</b>",
      text,
    });
  } finally {
    transport.close();
  }
}

const page = (path: string, form?: Record<string, string>): Promise<Response> =>
  fetch(
    `http://127.0.0.1:${town.ports.page}${path}`,
    form === undefined
      ? {}
      : { method: "POST", body: new URLSearchParams(form), redirect: "manual" },
  );

describe("mailboxes", () => {
  test("take mail for the domains of the town, and for no other", async () => {
    await deliver("una@lettr.example");
    await deliver("Somebody.New@oakmail.example");
    await expect(deliver("una@faraway.example")).rejects.toThrow(/5\.1\.2/);
    expect(
      town.boxes
        .all()
        .filter(({ letters }) => letters > 0)
        .map(({ address }) => address)
        .sort(),
    ).toEqual(["somebody.new@oakmail.example", "una@lettr.example"]);
  });

  test("show a letter as text, never as markup, with its header", async () => {
    const [letter] = await town.boxes.lettersOf("una@lettr.example");
    const shown = await (await page(`/letter/${letter?.id ?? 0}`)).text();
    expect(shown).toContain("Hello &lt;b&gt;you&lt;/b&gt;");
    expect(shown).not.toContain("<b>you</b>");
    expect(letter).toMatchObject({
      returnPath: "list+b.1@lists.copperwheel.example",
      replyTo: "juno.abara@lettr.example",
    });
    expect((await page("/letter/9999")).status).toBe(404);
  });

  test.each([
    ["refuses", /550.*5\.1\.1/],
    ["full", /452.*4\.2\.2/],
    ["delays", /451.*4\.7\.1/],
  ])("can be told that they are ones that %s", async (behaviour, words) => {
    await page("/mailbox/otto%40oakmail.example/behaviour", { behaviour });
    expect(town.boxes.behaviourOf("otto@oakmail.example")).toBe(behaviour);
    await expect(deliver("otto@oakmail.example")).rejects.toThrow(words);
    expect(await town.boxes.lettersOf("otto@oakmail.example")).toEqual([]);
    await page("/mailbox/otto%40oakmail.example/behaviour", { behaviour: "takes" });
  });

  test("that say later take the mail after a while", () => {
    town.boxes.setBehaviour("otto@oakmail.example", "delays");
    expect(town.boxes.refusal("otto@oakmail.example", 1_000_000)?.code).toBe(451);
    expect(town.boxes.refusal("otto@oakmail.example", 1_019_999)?.code).toBe(451);
    expect(town.boxes.refusal("otto@oakmail.example", 1_020_000)).toBeUndefined();
    town.boxes.setBehaviour("otto@oakmail.example", "takes");
  });

  test("ignore a behaviour that there is not", async () => {
    await page("/mailbox/otto%40oakmail.example/behaviour", { behaviour: "explodes" });
    expect(town.boxes.behaviourOf("otto@oakmail.example")).toBe("takes");
  });

  test("are there again after a restart", async () => {
    town.boxes.setBehaviour("una@lettr.example", "full");
    const again = new Mailboxes(DIRECTORY, folder);
    expect(again.behaviourOf("una@lettr.example")).toBe("full");
    expect(await again.lettersOf("una@lettr.example")).toEqual(
      await town.boxes.lettersOf("una@lettr.example"),
    );
    town.boxes.setBehaviour("una@lettr.example", "takes");
  });
});

describe("writing from a mailbox", () => {
  test("to a list goes to Amigo's port, to a neighbour stays in town", async () => {
    const told = await page("/mailbox/una%40lettr.example/write", {
      to: "wire@lists.copperwheel.example",
      subject: "Hi",
      text: "Hi",
      inReplyTo: "",
    });
    expect(decodeURIComponent(told.headers.get("location") ?? "")).toContain(
      "Sent to wire@lists.copperwheel.example.",
    );
    expect(taken).toEqual([{ from: "una@lettr.example", to: ["wire@lists.copperwheel.example"] }]);
    await page("/mailbox/una%40lettr.example/write", {
      to: "otto@oakmail.example",
      subject: "Hi Otto",
      text: "Hi",
      inReplyTo: "",
    });
    expect(
      (await town.boxes.lettersOf("otto@oakmail.example")).map(({ subject }) => subject),
    ).toEqual(["Hi Otto"]);
  });

  test("tells when it was not sent, and why", async () => {
    const told = await page("/mailbox/una%40lettr.example/write", {
      to: "x@faraway.example",
      subject: "Hi",
      text: "Hi",
      inReplyTo: "",
    });
    expect(decodeURIComponent(told.headers.get("location") ?? "")).toMatch(
      /Not sent: .*no such domain/,
    );
  });
});

describe("for scripts", () => {
  test("mailboxes and their letters are told as JSON", async () => {
    const all = (await (await page("/api/mailboxes")).json()) as {
      address: string;
      letters: number;
    }[];
    expect(all.find(({ address }) => address === "una@lettr.example")?.letters).toBe(1);
    const letters = (await (
      await page("/api/mailboxes/una%40lettr.example")
    ).json()) as OpenedLetter[];
    expect(letters[0]?.text.trim()).toBe("Hello.");
  });

  test("the list of mailboxes is searched by name and address", async () => {
    const found = await (await page("/?q=otto")).text();
    expect(found).toContain("Otto Quist");
    expect(found).not.toContain("Una Holm");
  });

  test("a taken port is told with the setting that changes it", async () => {
    await expect(
      startMailtown({
        smtpPort: town.ports.smtp,
        pagePort: 0,
        amigoPort: 1,
        folder,
        directory: DIRECTORY,
      }),
    ).rejects.toThrow(/is taken by another program.*AMIGO_MAILTOWN_SMTP_PORT/);
  });
});
