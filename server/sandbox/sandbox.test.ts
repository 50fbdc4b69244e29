import { readFileSync } from "node:fs";
import { strToU8 } from "fflate";
import { describe, expect, test } from "vitest";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { Sandbox, SandboxEnded } from "./sandbox";

const roster = readFileSync(`${SAMPLES_FOLDER}/autumn-roster.ods`);
const usual = { heap: 512, memory: 2048, patience: 1 };
const shared = new Sandbox(1, usual);
const mail = (headers: string[], body: string): Buffer =>
  Buffer.from(`${headers.join("\r\n")}\r\n\r\n${body}`, "latin1");

describe("what comes from outside is opened in a process of its own", () => {
  test("which answers, again and again", async () => {
    const [first, second] = await Promise.all([
      shared.run("openSheets", roster),
      shared.run("openSheets", strToU8("Name,Class\nIda,One\n")),
    ]);
    expect(first.ok && first.workbook.sheets.map(({ name }) => name)).toContain("Read me");
    expect(second.ok && second.workbook.sheets[0]?.rows).toEqual([
      ["Name", "Class"],
      ["Ida", "One"],
    ]);
  });

  test.each([
    ["memory", { ...usual, memory: 40 }],
    ["time", { ...usual, patience: 0.00001 }],
  ])(
    "and ended when it takes too much %s; the next task is done by another",
    async (by, limits) => {
      const strict = new Sandbox(1, limits);
      const large = strToU8(`Name,Class\n${"Ida Holm,Wire Walk\n".repeat(100_000)}`);
      const failure = await strict.run("openSheets", large).then(
        () => undefined,
        (thrown: unknown) => thrown,
      );
      expect(failure).toBeInstanceOf(SandboxEnded);
      expect((failure as SandboxEnded).by).toBe(by);
      await expect(strict.run("openSheets", large)).rejects.toThrow(SandboxEnded);
    },
  );

  test("and says so where a mail can't be parsed at all, which is no fault of the process", async () => {
    const nested = Array.from(
      { length: 20_000 },
      (_, at) => `--b${at}\r\nContent-Type: multipart/mixed; boundary=b${at + 1}\r\n\r\n`,
    ).join("");
    const raw = mail(
      [
        "From: a@oakmail.example",
        "MIME-Version: 1.0",
        "Content-Type: multipart/mixed; boundary=b0",
      ],
      nested,
    );
    for (const task of ["readMail", "showMail", "attachmentOf"] as const)
      await expect(
        shared.run(task, (task === "showMail" ? raw : { raw, index: 0 }) as never),
      ).rejects.toMatchObject({ by: "content" });
  });

  test("asks the DNS only so often for one mail, and looks at ten signatures at most", async () => {
    const asked: string[] = [];

    const body = "Dear families.\r\n";
    const signatures = Array.from(
      { length: 800 },
      (_, at) =>
        `DKIM-Signature: v=1; a=rsa-sha256; c=relaxed/relaxed; d=d${at}.example; s=k; h=from; bh=MB7XFOCD6sSFeCa6ksGFTyFVLT8sTUePnK4bHb/4J1s=; b=AAAA`,
    );
    const read = await shared.run(
      "readMail",
      {
        raw: mail([...signatures, "From: a@oakmail.example", "Subject: Signed"], body),
        envelope: {
          ip: "192.0.2.7",
          helo: "x",
          returnPath: "a@oakmail.example",
          mta: "here.example",
        },
      },
      (name) => {
        asked.push(name);
        return Promise.reject(Object.assign(new Error("none"), { code: "ENOTFOUND" }));
      },
    );
    expect(read.about.subject).toBe("Signed");
    expect(asked.length).toBeLessThan(40);
    expect(new Set(asked.filter((name) => name.includes("_domainkey"))).size).toBeLessThanOrEqual(
      10,
    );
  });

  test("goes on with its task when all processes are told to stop, for the program waits for it", async () => {
    const large = strToU8(`Name,Class\n${"Ida Holm,Wire Walk\n".repeat(100_000)}`);
    const reading = shared.run("openSheets", large);
    for (const signal of ["SIGINT", "SIGTERM"] as const)
      shared["children"][0]?.process.kill(signal);
    expect((await reading).ok).toBe(true);
  });

  test("HTML alone gives the words that can be searched", async () => {
    const { about } = await shared.run("readMail", {
      raw: mail(
        ["From: a@oakmail.example", "Subject: HTML", "Content-Type: text/html; charset=utf-8"],
        "<html><head><title>no</title><style>p{}</style></head><body><p>Dear <b>families</b>,</p><p>bring&nbsp;ropes &amp; chalk</p><script>alert(1)</script></body></html>",
      ),
    });
    expect(about.text).toBe("Dear families,\n\nbring ropes & chalk");
  });

  test("tags nested a hundred thousand deep are shown as their words, without markup that ends nowhere", async () => {
    const { html, text } = await shared.run(
      "showMail",
      mail(
        ["From: a@oakmail.example", "Content-Type: text/html"],
        `${"<div>".repeat(100_000)}Hello${"</div>".repeat(100_000)}`,
      ),
    );
    expect(text).toBe("Hello");
    expect(html).toContain("Hello");
    expect(html.length).toBeLessThan(10_000);
  });
});
