import { simpleParser } from "mailparser";
import { afterAll, beforeAll, expect, test } from "vitest";
import { LARGEST_PICTURE } from "@amigo/contract/house";
import {
  JUNO,
  ODILE,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";

let house: TestHouse;
let juno: Client;
beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const PNG = Buffer.from("89504e470d0a1a0a0000000d49484452", "hex");

const send = (client: Client, name: string, content: Uint8Array<ArrayBuffer>) => {
  const form = new FormData();
  form.set("file", new File([content], name, { type: "image/png" }));
  return client.ask<{ detail: string }>("POST", "/api/house/picture", form);
};
const address = async (): Promise<string> =>
  (await house.client().ask<{ picture: string }>("GET", "/api/start")).body.picture;
const linkMail = async (): Promise<string> => {
  house.sink.mails.length = 0;
  await house.client().ask("POST", "/api/sign-in/link", { email: ODILE, what: "sign-in" });
  await until(
    "the mailed link",
    async () => house.sink.mails.length,
    (count) => count === 1,
  );
  return house.sink.mails[0]?.raw ?? "";
};

test("a house without a picture shows none, and its sign-in mails are text alone", async () => {
  expect(await address()).toBe("");
  expect((await fetch(`${house.url}/api/house/picture`)).status).toBe(404);
  const mail = await simpleParser(await linkMail());
  expect([mail.html, mail.attachments.length]).toEqual([false, 0]);
});

test("what is no picture, too large, or sent by somebody else is refused in a sentence", async () => {
  const script = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>');
  expect((await send(juno, "crest.png", script)).body.detail).toBe(
    "crest.png is not a PNG, JPEG or GIF picture. Save it as one of these and choose it again.",
  );
  const large = await send(juno, "large.png", Buffer.concat([PNG, Buffer.alloc(LARGEST_PICTURE)]));
  expect([large.status, large.body.detail]).toEqual([
    422,
    "large.png has 201 kB; a picture has at most 200 kB. Save it smaller and choose it again.",
  ]);
  expect((await send(await house.signIn(ODILE), "crest.png", PNG)).status).toBe(403);
  expect(await address()).toBe("");
});

test("a picture is shown to anybody, as the kind that it is, and goes into sign-in mails", async () => {
  expect((await send(juno, "crest.png", PNG)).status).toBe(200);
  const answer = await fetch(`${house.url}${await address()}`);
  expect(answer.headers.get("content-type")).toBe("image/png");
  expect(answer.headers.get("content-security-policy")).toContain("default-src 'none'");
  expect(Buffer.from(await answer.arrayBuffer())).toEqual(PNG);
  const mail = await simpleParser(await linkMail());
  expect(mail.attachments.map(({ contentType, content }) => [contentType, content])).toEqual([
    ["image/png", PNG],
  ]);
  expect(mail.html).toContain("<b>Copperwheel Circus School</b>");
  const link = /\S+\/enter\/\S+/.exec(mail.text ?? "")?.[0] ?? "none";
  expect(mail.html).toContain(`<a href="${link}">${link}</a>`);
});

test("and is gone when it is removed", async () => {
  expect((await juno.ask("DELETE", "/api/house/picture")).status).toBe(200);
  expect(await address()).toBe("");
});
