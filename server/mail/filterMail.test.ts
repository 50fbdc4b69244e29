import { createServer as createWeb } from "node:http";
import type { AddressInfo } from "node:net";
import { afterEach, expect, test, vi } from "vitest";
import { readSettings } from "../settings";
import { filterMail } from "./filterMail";
import { MARK, startScanner } from "../testing/scannerStandIn";
import { SmtpAnswer } from "./smtpAnswer";

const closers: (() => void)[] = [];
afterEach(() => {
  for (const close of closers.splice(0)) close();
});

async function listening(server: ReturnType<typeof createWeb>): Promise<number> {
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  closers.push(() => server.close());
  return (server.address() as AddressInfo).port;
}

/** A stand-in for a spam filter, and what it was asked. */
async function startFilter(status: number, answer: unknown) {
  const asked: { path: string; headers: string[]; body: string }[] = [];
  const port = await listening(
    createWeb((request, response) => {
      const chunks: Buffer[] = [];
      request.on("data", (chunk: Buffer) => chunks.push(chunk));
      request.on("end", () => {
        asked.push({
          path: request.url ?? "",
          headers: request.rawHeaders,
          body: Buffer.concat(chunks).toString(),
        });
        response.writeHead(status, { "Content-Type": "application/json" });
        response.end(typeof answer === "string" ? answer : JSON.stringify(answer));
      });
    }),
  );
  return { url: `http://127.0.0.1:${port}`, asked };
}

const MAIL = {
  id: "7F3KQ0M2XA",
  raw: Buffer.from("Subject: Hello\r\n\r\nHello.\r\n"),
  returnPath: "una@lettr.example",
  recipients: ["a@lists.copperwheel.example", "b@lists.copperwheel.example"],
  connection: {
    ...{ ip: "198.51.100.7", helo: "mx.lettr.example", front: "none" as const },
    ...{ protocol: "ESMTP", tls: "" },
  },
};

async function filtered(environment: Record<string, string>, mail = MAIL) {
  const settings = readSettings({ AMIGO_DATABASE_URL: "postgres://x", ...environment });
  const log = { warn: vi.fn() };
  const said = await filterMail({ settings, log } as never, mail);
  return {
    said: said instanceof SmtpAnswer ? `${said.responseCode} ${said.message}` : said,
    warned: log.warn.mock.calls.length,
  };
}

test("without a scanner and a filter every mail passes", async () =>
  expect((await filtered({})).said).toEqual({ isMarked: false }));

test("what the scanner finds is refused for good, and while it is away mail comes again later", async () => {
  const scanner = await startScanner();
  const environment = { AMIGO_SCANNER: `clamd://127.0.0.1:${scanner.port}` };
  expect((await filtered(environment)).said).toEqual({ isMarked: false });
  const infected = { ...MAIL, raw: Buffer.from(`Subject: x\r\n\r\n${"a".repeat(200_000)}${MARK}`) };
  expect((await filtered(environment, infected)).said).toBe(
    "554 5.7.1 a virus scanner found Copperwheel.Test in this mail",
  );
  expect(scanner.sizes).toEqual([MAIL.raw.length, infected.raw.length]);
  await scanner.close();
  const away = await filtered(environment);
  expect(away.said).toMatch(/^451 4\.7\.1/);
  expect(away.warned).toBe(1);
});

test("the spam filter is told of the mail and its way, and decides", async () => {
  const { url, asked } = await startFilter(200, { action: "no action", score: 1 });
  expect((await filtered({ AMIGO_SPAM_FILTER: url })).said).toEqual({ isMarked: false });
  expect(asked).toHaveLength(1);
  expect(asked[0]).toMatchObject({ path: "/checkv2", body: MAIL.raw.toString() });
  const headers = asked[0]?.headers ?? [];
  const valuesOf = (name: string) =>
    headers.flatMap((value, at) =>
      at % 2 === 1 && headers[at - 1]?.toLowerCase() === name ? value.split(", ") : [],
    );
  expect(valuesOf("ip")).toEqual(["198.51.100.7"]);
  expect(valuesOf("rcpt")).toEqual(MAIL.recipients);
});

test.each([
  ["add header", 200, { isMarked: true }],
  ["rewrite subject", 200, { isMarked: true }],
  ["reject", 200, "554 5.7.1 a spam filter refuses this mail"],
  ["greylist", 200, "451 4.7.1 try again in a few minutes"],
  ["soft reject", 200, "451 4.7.1 try again in a few minutes"],
  ["reject", 500, { isMarked: false }],
])("its %s (%i)", async (action, status, said) => {
  const { url } = await startFilter(status, { action });
  expect((await filtered({ AMIGO_SPAM_FILTER: url })).said).toEqual(said);
});

test("a filter that is away or answers nonsense keeps no mail out, and is in the log", async () => {
  const { url } = await startFilter(200, "<html>");
  for (const filter of [url, "http://127.0.0.1:9"])
    expect(await filtered({ AMIGO_SPAM_FILTER: filter })).toEqual({
      said: { isMarked: false },
      warned: 1,
    });
});

test("what it says can't break out of the answer", async () => {
  const { url } = await startFilter(200, {
    action: "reject",
    messages: { smtp_message: "No.\r\n250 taken" },
  });
  expect((await filtered({ AMIGO_SPAM_FILTER: url })).said).toBe("554 5.7.1 No. 250 taken");
});
