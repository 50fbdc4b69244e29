import { gzipSync } from "node:zlib";
import { strToU8, zipSync } from "fflate";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { MailReports } from "@amigo/contract/mail";
import { proven } from "../testing/openZone";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";

const DOMAIN = "lists.copperwheel.example";
let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const seconds = (daysAgo: number): number => Math.floor(Date.now() / 1000) - daysAgo * 86_400;
interface Record {
  ip: string;
  count: number;
  dkim: string;
  spf: string;
  disposition?: string;
}
const dmarc = (id: string, records: readonly Record[], { domain = DOMAIN, extra = "" } = {}) =>
  `<?xml version="1.0" encoding="UTF-8"?>${extra}
<feedback xmlns="urn:ietf:params:xml:ns:dmarc-1.0">
  <report_metadata><org_name>Oakmail &amp; co</org_name><report_id>${id}</report_id>
    <date_range><begin>${seconds(2)}</begin><end>${seconds(1)}</end></date_range></report_metadata>
  <policy_published><domain>${domain}</domain><p>quarantine</p></policy_published>
  ${records
    .map(
      ({ ip, count, dkim, spf, disposition = "none" }) =>
        `<record><row><source_ip>${ip}</source_ip><count>${count}</count><policy_evaluated><disposition>${disposition}</disposition><dkim>${dkim}</dkim><spf>${spf}</spf></policy_evaluated></row><identifiers><header_from>${domain}</header_from></identifiers></record>`,
    )
    .join("\n")}
</feedback>`;
const tls = (id: string, failures: readonly object[]): string =>
  JSON.stringify({
    "organization-name": "Lettr",
    "date-range": {
      "start-datetime": new Date(seconds(2) * 1000).toISOString(),
      "end-datetime": new Date(seconds(1) * 1000).toISOString(),
    },
    "report-id": id,
    policies: [
      {
        policy: { "policy-type": "sts", "policy-domain": DOMAIN },
        summary: { "total-successful-session-count": 40, "total-failure-session-count": 3 },
        "failure-details": failures,
      },
    ],
  });

/** Sends a file to postmaster, as services send their reports. */
async function send(
  name: string,
  type: string,
  content: Uint8Array,
  from = "reports@oakmail.example",
) {
  const raw = [
    `From: <${from}>`,
    `To: <postmaster@${DOMAIN}>`,
    `Subject: Report domain: ${DOMAIN} (${name})`,
    `Message-ID: <${crypto.randomUUID()}@oakmail.example>`,
    "MIME-Version: 1.0",
    `Content-Type: ${type}; name="${name}"`,
    `Content-Disposition: attachment; filename="${name}"`,
    "Content-Transfer-Encoding: base64",
    "",
    Buffer.from(content).toString("base64").replace(/.{76}/g, "$&\r\n"),
    "",
  ].join("\r\n");
  await house.mail({ from, to: `postmaster@${DOMAIN}`, raw, returnPath: from });
}
const shown = async (): Promise<MailReports> =>
  (await juno.ask<MailReports>("GET", "/api/mail/reports")).body;
const passedOn = (name: string): boolean =>
  house.sink.mails.some(({ raw }) => raw.includes(`(${name})`));

const OURS = { ip: "192.0.2.7", count: 120, dkim: "pass", spf: "pass" };
const STRANGER = {
  ...{ ip: "203.0.113.9", count: 14, dkim: "fail", spf: "fail" },
  disposition: "quarantine",
};

test("reports of receivers are summed up by machine, each once, with what to do, and are nobody's mail", async () => {
  const first = dmarc("day-1", [
    OURS,
    { ip: "198.51.100.4", count: 3, dkim: "pass", spf: "fail" },
    { ip: "192.0.2.8", count: 2, dkim: "fail", spf: "pass" },
    STRANGER,
  ]);
  const second = dmarc("day-2", [OURS, { ...STRANGER, count: 1, disposition: "none" }]);
  await proven(house, async () => {
    await send("one.xml.gz", "application/gzip", gzipSync(first));
    await send("again.xml.gz", "application/octet-stream", gzipSync(first));
    await send("two.zip", "application/zip", zipSync({ "two.xml": strToU8(second) }));
    await send("three.xml", "text/xml", strToU8(dmarc("day-3", [OURS])));
    await send(
      "tls.json.gz",
      "application/tlsrpt+gzip",
      gzipSync(
        tls("t-1", [
          {
            "result-type": "certificate-expired",
            "receiving-mx-hostname": "mx.copperwheel.example",
            "failed-session-count": 3,
          },
        ]),
      ),
    );
  });
  const { proofs, sessions } = await shown();
  expect(proofs.map(({ source, kind, mails, refused }) => [source, kind, mails, refused])).toEqual([
    ["203.0.113.9", "unknown", 15, 14],
    ["192.0.2.7", "ours", 360, 0],
    ["198.51.100.4", "handed on", 3, 0],
    ["192.0.2.8", "unsigned", 2, 0],
  ]);
  expect(proofs[0]).toMatchObject({
    reporters: ["oakmail.example"],
    advice: expect.stringContaining("SPF record"),
  });
  expect(sessions).toMatchObject({
    encrypted: 40,
    problems: [{ server: "mx.copperwheel.example", problem: "certificate-expired", sessions: 3 }],
  });
  expect(sessions.problems[0]?.advice).toMatch(/Renew/);
  for (const name of ["one.xml.gz", "two.zip", "three.xml", "tls.json.gz"])
    expect(passedOn(name)).toBe(false);
});

test("what isn't proven, isn't about this house, or is no report goes on to the coordinators as mail", async () => {
  const before = await shown();
  const bomb = gzipSync(Buffer.alloc(60 * 1024 * 1024, 32));
  const deep = `<feedback>${"<a>".repeat(5000)}`;
  await send("unproven.xml", "text/xml", strToU8(dmarc("forged", [STRANGER])));
  await proven(house, async () => {
    await send(
      "other.xml",
      "text/xml",
      strToU8(dmarc("other", [OURS], { domain: "elsewhere.example" })),
    );
    await send("bomb.xml.gz", "application/gzip", bomb);
    await send("deep.xml", "text/xml", strToU8(deep));
    await send("broken.zip", "application/zip", strToU8("PK\u0003\u0004 nothing"));
    await send("list.json", "application/tlsrpt+json", strToU8('{"policies":[]}'));
  });
  expect(await shown()).toEqual(before);
  const names = ["unproven.xml", "other.xml", "bomb.xml.gz", "deep.xml", "broken.zip", "list.json"];
  for (const name of names) await house.mailTo(JUNO, `(${name})`);
});

test("entities of a report's own making stand for nothing", async () => {
  const lol = `<!DOCTYPE feedback [<!ENTITY a "${"x".repeat(1000)}"><!ENTITY b "${"&a;".repeat(1000)}">]>`;
  const report = dmarc("lol", [{ ...OURS, ip: "198.51.100.99" }], { extra: lol }).replace(
    "<org_name>",
    "<email>&b;</email><org_name>",
  );
  await proven(house, () => send("lol.xml", "text/xml", strToU8(report)));
  const { proofs } = await shown();
  expect(proofs.find(({ source }) => source === "198.51.100.99")?.mails).toBe(120);
});
