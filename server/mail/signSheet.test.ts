import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { authenticate } from "mailauth";
import { afterAll, describe, expect, test } from "vitest";
import { composeAlike } from "../posting/composeAlike";
import { openMold } from "../posting/noteSheet";
import { dkimKey } from "./dkimKey";
import { sheetSigner } from "./signSheet";

const DOMAIN = "lists.copperwheel.example";
const folder = mkdtempSync(join(tmpdir(), "amigo-sheet-"));
const dkim = dkimKey({ data: folder, dkimKey: undefined });
afterAll(() => rmSync(folder, { recursive: true }));

const resolver = async (name: string, type: string): Promise<string[][]> => {
  if (type === "TXT" && name === `amigo._domainkey.${DOMAIN}`) return [[dkim.record]];
  throw Object.assign(new Error("no such name"), { code: "ENOTFOUND" });
};
async function verified(raw: Buffer): Promise<string | undefined> {
  const { dkim: found } = await authenticate(raw, {
    ...{ ip: "192.0.2.1", helo: "relay.brightpost.example", sender: "", resolver },
  });
  return found.results[0]?.status.result;
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
    const sign = sheetSigner(openMold(sheet.mold), dkim);
    const now = Date.now();
    const times = [now - 60_000, now - 59_000, now];
    const copies = await Promise.all(
      times.flatMap((at) =>
        each.map((one, number) =>
          sign({ ...one, messageId: `<${at}.${number}@${DOMAIN}>` }, DOMAIN, new Date(at)),
        ),
      ),
    );
    expect(await Promise.all(copies.map(verified))).toEqual(copies.map(() => "pass"));
    expect(new Set(copies.map(String)).size).toBe(copies.length);
    for (const copy of copies) {
      expect(copy.toString("latin1")).not.toMatch(/MARK|\u0001/);
    }
    const changed = copies[0]?.toString("latin1").replace("oak@oakmail", "elm@oakmail") ?? "";
    expect(await verified(Buffer.from(changed, "latin1"))).toBe("fail");
  });
});
