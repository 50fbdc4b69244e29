import { generateKeyPairSync } from "node:crypto";
import { authenticate } from "mailauth";
import { describe, expect, test } from "vitest";
import { composeAlike } from "../posting/composeAlike";
import { openMold } from "../posting/noteSheet";
import { recordOf, signerOf, type Algorithm } from "./mailKeys";
import { sheetSigner } from "./signSheet";

const DOMAIN = "lists.copperwheel.example";
const key = (selector: string, algorithm: Algorithm) => {
  const { privateKey } =
    algorithm === "rsa-sha256"
      ? generateKeyPairSync("rsa", { modulusLength: 2048 })
      : generateKeyPairSync("ed25519");
  const pem = privateKey.export({ type: "pkcs8", format: "pem" }).toString();
  return { signer: signerOf(selector, algorithm, pem), record: recordOf(pem, algorithm) };
};
const keys = [key("amigo", "rsa-sha256"), key("amigo-ed", "ed25519-sha256")];
const signers = keys.map(({ signer }) => signer);

const resolver = async (name: string, type: string): Promise<string[][]> => {
  const found = keys.find(({ signer }) => name === `${signer.selector}._domainkey.${DOMAIN}`);
  if (type === "TXT" && found !== undefined) return [[found.record]];
  throw Object.assign(new Error("no such name"), { code: "ENOTFOUND" });
};
/** What a receiver finds of each signature. */
async function verified(raw: Buffer): Promise<string> {
  const { dkim: found } = await authenticate(raw, {
    ...{ ip: "192.0.2.1", helo: "relay.brightpost.example", sender: "", resolver },
  });
  return found.results
    .map(({ status, selector }) => `${selector} ${status.result}`)
    .sort()
    .join(", ");
}
const alike = {
  text: "Kommt ihr? Ja:\thttps://amigo.example/date/MARKTOKEN \r\n \r\n  Ende  \r\n\r\n",
  calendar: "BEGIN:VCALENDAR\r\nATTENDEE:mailto:MARKADDRESS\r\nEND:VCALENDAR\r\n",
  tokenMark: "MARKTOKEN",
  addressMark: "MARKADDRESS",
};

describe("copies of a mail to many", () => {
  test("are each signed for what they hold, also minutes and domains later", async () => {
    const each = ["oak@oakmail.example", "robin.elm+school@mailhaven.example"].map((address) => ({
      address,
      token: `secret${address.length}`,
    }));
    const shared = {
      from: { name: "Trapeze Two, Élodie & co", address: `trapeze@${DOMAIN}` },
      subject: `Einladung: Frühlingsfest ${"und noch mehr ".repeat(8)}`,
      domain: DOMAIN,
      automatic: { inReplyTo: undefined },
    };
    const { sheet } = await composeAlike(shared, "REQUEST", alike, each);
    if (sheet === undefined) throw new Error("no sheet was made");
    const sign = sheetSigner(openMold(sheet.mold), () => signers);
    const now = Date.now();
    const times = [now - 60_000, now - 59_000, now];
    const copies = await Promise.all(
      times.flatMap((at) =>
        each.map((one, number) =>
          sign({ ...one, messageId: `<${at}.${number}@${DOMAIN}>` }, DOMAIN, new Date(at)),
        ),
      ),
    );
    expect(await Promise.all(copies.map(verified))).toEqual(
      copies.map(() => "amigo pass, amigo-ed pass"),
    );
    expect(new Set(copies.map(String)).size).toBe(copies.length);
    for (const copy of copies) {
      expect(copy.toString("latin1")).not.toMatch(/MARK|\u0001/);
    }
    const changed = copies[0]?.toString("latin1").replace("oak@oakmail", "elm@oakmail") ?? "";
    expect(await verified(Buffer.from(changed, "latin1"))).toBe("amigo fail, amigo-ed fail");
  });
});
