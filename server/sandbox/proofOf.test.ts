import { generateKeyPairSync } from "node:crypto";
import { dkimSign } from "mailauth/lib/dkim/sign";
import { splitMessage } from "@amigo/core/mail/splitMessage";
import { describe, expect, test } from "vitest";
import { proofOf } from "./proofOf";

const { privateKey, publicKey } = generateKeyPairSync("rsa", {
  modulusLength: 2048,
  publicKeyEncoding: { type: "spki", format: "der" },
  privateKeyEncoding: { type: "pkcs8", format: "pem" },
});
const NOW = new Date("2026-11-28T09:00:00Z");
const LIST = "ml-wire-parents-2627@lists.copperwheel.example";

const zone = (spf = "", dmarc = "") => {
  return async (name: string, type: string): Promise<string[][]> => {
    const found =
      type !== "TXT"
        ? ""
        : name === "k._domainkey.copperwheel.example"
          ? `v=DKIM1; k=rsa; p=${publicKey.toString("base64")}`
          : name === "_dmarc.copperwheel.example"
            ? dmarc
            : name === "copperwheel.example"
              ? spf
              : "";
    if (found === "") throw Object.assign(new Error("nothing there"), { code: "ENOTFOUND" });
    return [[found]];
  };
};

const message = (fields: Record<string, string> = {}, body = "Dear families.\r\n"): string =>
  `${Object.entries({
    From: "Juno Abara <juno.abara@copperwheel.example>",
    To: LIST,
    Subject: "Rehearsal",
    Date: "Sat, 28 Nov 2026 08:55:00 +0000",
    "Message-ID": "<a@copperwheel.example>",
    ...fields,
  })
    .map(([name, value]) => `${name}: ${value}`)
    .join("\r\n")}\r\n\r\n${body}`;

async function signed(raw: string, more: Record<string, unknown> = {}): Promise<string> {
  const { signatures } = await dkimSign(raw, {
    signingDomain: "copperwheel.example",
    selector: "k",
    privateKey,
    canonicalization: "relaxed/relaxed",
    signTime: new Date(NOW.getTime() - 60_000),
    ...more,
    signatureData: [
      { signingDomain: "copperwheel.example", selector: "k", privateKey, ...(more.own ?? {}) },
    ],
  });
  return `${signatures}${raw}`;
}

async function proven(raw: string, resolver = zone()) {
  const octets = Buffer.from(raw, "latin1");
  const split = splitMessage(octets);
  return proofOf(
    octets,
    split,
    "juno.abara@copperwheel.example",
    {
      ip: "192.0.2.9",
      helo: "relay.example",
      returnPath: "juno.abara@copperwheel.example",
      mta: "x",
    },
    resolver,
    NOW,
  );
}

describe("a signature", () => {
  test("proves a mail to the addresses that it covers", async () => {
    const { signedTo } = await proven(
      await signed(message({ Cc: "Other <other@lists.copperwheel.example>" })),
    );
    expect(signedTo).toEqual([LIST, "other@lists.copperwheel.example"]);
  });

  test.each([
    [
      "to somebody else",
      () => signed(message({ To: "friend@oakmail.example" })),
      ["friend@oakmail.example"],
    ],
    [
      "of last year",
      () =>
        signed(message({ Date: "Fri, 28 Nov 2025 08:55:00 +0000" }), {
          signTime: new Date("2025-11-28T08:55:00Z"),
        }),
      [],
    ],
    [
      "from the future",
      () => signed(message(), { signTime: new Date("2027-11-28T08:55:00Z") }),
      [],
    ],
    [
      "over a part of the body",
      async () => `${await signed(message(), { own: { maxBodyLength: 7 } })}And send money.\r\n`,
      [],
    ],
    [
      "with a second Subject above it",
      async () => `Subject: Send money\r\n${await signed(message())}`,
      [],
    ],
    [
      "with a second From above it",
      async () => `From: x@oakmail.example\r\n${await signed(message())}`,
      [],
    ],
    [
      "with a second Date above it",
      async () => `Date: Sat, 28 Nov 2026 08:58:00 +0000\r\n${await signed(message())}`,
      [],
    ],
    [
      "over a body that was changed",
      async () => (await signed(message())).replace("Dear", "Evil"),
      [],
    ],
    ["that leaves the Subject out", () => signed(message(), { headerList: "from:to:date" }), []],
    ["that leaves the To out", () => signed(message(), { headerList: "from:subject:date" }), []],
  ])("%s proves nothing for the list", async (_, make, expected) => {
    const { signedTo } = await proven(await make());
    expect(signedTo).toEqual(expected);
    expect(signedTo).not.toContain(LIST);
  });
});

describe("a mail is forged", () => {
  test.each([
    ["where SPF of its own domain fails", zone("v=spf1 -all"), true],
    ["where SPF does softly", zone("v=spf1 ~all"), true],
    ["where its domain's DMARC fails", zone("", "v=DMARC1; p=reject"), true],
  ])("%s", async (_, resolver, is) => {
    expect((await proven(message(), resolver)).isForged).toBe(is);
  });
  test("not where its domain says nothing of itself, or a signature holds", async () => {
    expect((await proven(message())).isForged).toBe(false);
    expect((await proven(await signed(message()), zone("", "v=DMARC1; p=reject"))).isForged).toBe(
      false,
    );
  });
});
