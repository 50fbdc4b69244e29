import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { FormContent } from "@amigo/core/forms/form";
import type { AnswerLine, FormPage, MissingStudent } from "@amigo/contract/forms";
import { openRoundOf } from "../testing/roundOf";
import { provenOpening } from "./opened";
import { readForms } from "./readForms";
import {
  JUNO,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";

const ROSTER = [
  "Student no.,Surname,First name,Class,Coach,Parent 1,Email 1",
  "CW-1,Brandt,Ida,Trapeze Two,Ravi Lindqvist,Halim Brandt,halim@oakmail.example",
  "CW-2,Eastlake,Wren,Trapeze Two,Ravi Lindqvist,,",
  "CW-3,Quist,Éloïse,Wire Walk,Teo Bramwell,Ana Quist,ana.quist@lettr.example",
  "CW-4,Holm,Una,Wire Walk,Teo Bramwell,,",
  "CW-5,Holm,Per,Trapeze Two,Ravi Lindqvist,,",
];

const FORM: FormContent = {
  parts: ["class", "relationship", "second guardian", "how often", "consent"],
  cohorts: [],
  questions: [{ required: false }],
  unknownChild: "ask",
  opensOn: "",
  closesOn: "",
  words: [
    {
      language: "en",
      title: "Autumn sign-up",
      intro: "Once a year.",
      consent: "The school may keep my address.",
      labels: {},
      questions: [{ title: "T-shirt", choices: ["small", "large"] }],
    },
    {
      language: "de",
      title: "Anmeldung im Herbst",
      intro: "",
      consent: "Die Schule darf meine Adresse behalten.",
      labels: { given: "Vorname des Kindes", send: "Abschicken" },
      questions: [{ title: "T-Shirt", choices: ["klein", "groß"] }],
    },
  ],
};

let house: TestHouse;
let juno: Client;
let id = "";

beforeAll(async () => {
  house = await startTestHouse({ settings: { AMIGO_FORM_PER_MINUTE: "1000" } });
  juno = await house.signIn(JUNO);
  await house.readLines(juno, ROSTER, { name: "Roster" });
  await house.step(juno);
  const made = await juno.ask<{ id: string }>("POST", "/api/forms", {
    slug: "autumn",
    content: FORM,
    mode: "ask",
  });
  expect(made.status).toBe(200);
  id = made.body.id;
});
afterAll(() => house.close());
beforeEach(() => {
  house.sink.mails.length = 0;
});

interface Page {
  status: number;
  body: string;
}

async function get(path: string, headers: Record<string, string> = {}): Promise<Page> {
  const response = await fetch(path.startsWith("http") ? path : `${house.url}${path}`, { headers });
  return { status: response.status, body: await response.text() };
}

async function post(
  path: string,
  fields: Record<string, string>,
  headers: Record<string, string> = {},
): Promise<Page> {
  const response = await fetch(path.startsWith("http") ? path : `${house.url}${path}`, {
    method: "POST",
    body: new URLSearchParams(fields),
    headers,
  });
  return { status: response.status, body: await response.text() };
}

const hidden = (page: string, name: string): string =>
  new RegExp(`name="${name}" value="([^"]*)"`).exec(page)?.[1] ?? "";
/** What proves that a form was opened some while ago, as for somebody who takes their time. */
const begun = (): string => provenOpening(house.amigo.context.houseKey, Date.now() - 60_000);
const WREN = {
  given: "Wren",
  family: "Eastlake",
  class: "Trapeze Two",
  name: "Tove Eastlake",
  address: "tove@lettr.example",
  relationship: "mother",
  "question.0": "small",
  howOften: "weekly",
  consent: "yes",
};
const fill = async (fields: Record<string, string>): Promise<Page> =>
  post("/f/autumn", { begun: begun(), language: "en", ...fields });
const answers = async (query = ""): Promise<AnswerLine[]> =>
  (await juno.ask<{ answers: AnswerLine[] }>("GET", `/api/forms/${id}/answers?${query}`)).body
    .answers;
const linkIn = (mail: string): string => /https?:\/\/\S+\/f\/\w+\/[\w-]+/.exec(mail)?.[0] ?? "";
const confirm = async (address: string, title = "on the form"): Promise<string> => {
  const link = linkIn(await house.mailTo(address, title));
  expect((await post(link, {})).status).toBe(200);
  return link;
};
const openCauses = async (): Promise<string[]> =>
  (await openRoundOf(juno))?.causes.map(({ title, detail }) => `${title} ${detail}`) ?? [];

describe("a family's answer", () => {
  test("counts once its address is confirmed; then it is a row, a cause, and the family is on the class's list", async () => {
    const sent = await fill(WREN);
    expect([sent.status, sent.body]).toEqual([
      200,
      expect.stringContaining("Look in your mailbox"),
    ]);
    expect((await answers()).map(({ state }) => state)).toEqual(["unconfirmed"]);
    const mail = await house.mailTo("tove@lettr.example", "Please confirm");
    const link = linkIn(mail);
    // Looking at the page confirms nothing: a mail system may look at links.
    expect((await get(link)).body).toContain("Yes, this answer is mine");
    expect((await answers()).map(({ state }) => state)).toEqual(["unconfirmed"]);
    expect((await post(link, {})).body).toContain("Thank you");
    expect((await answers()).map(({ state }) => state)).toEqual(["accepted"]);
    await until("the cause", openCauses, (causes) =>
      causes.some((sentence) => sentence.includes("Tove Eastlake")),
    );
    await house.step(juno);
    const lists = await juno.ask<{ id: string }[]>("GET", "/api/lists?q=trapeze two guardians");
    const members = await juno.ask<{ members: { address: string }[] }>(
      "GET",
      `/api/lists/${lists.body[0]?.id}/members`,
    );
    expect(members.body.members.map(({ address }) => address)).toContain("tove@lettr.example");
    await readForms(house.amigo.context);
    expect(
      (
        await house.amigo.context.db.execute(
          sql`select how_often from receiving where address = 'tove@lettr.example'`,
        )
      ).rows,
    ).toEqual([{ how_often: "weekly" }]);
  });

  test("sent twice is there once, and the newest stands while the older are kept", async () => {
    const una = {
      ...WREN,
      given: "Una",
      family: "Holm",
      class: "Wire Walk",
      name: "Otto Holm",
      address: "otto@lettr.example",
    };
    await fill(una);
    await fill(una);
    expect((await answers("q=holm")).length).toBe(1);
    const link = await confirm("otto@lettr.example");
    const token = link.split("/").at(-1) ?? "";
    const [first] = await answers("q=holm");
    const change = await get(`/f/autumn?mine=${token}&changes=${first?.id}`);
    expect(hidden(change.body, "changes")).toBe(first?.id);
    expect(change.body).toContain('value="Otto Holm"');
    const changed = await post("/f/autumn", {
      ...una,
      "question.0": "large",
      language: "en",
      mine: token,
      changes: first?.id ?? "",
    });
    expect(changed.body).toContain("Thank you");
    const now = await answers("q=holm");
    expect(now.map(({ state, older, answer }) => [state, older, answer.questions])).toEqual([
      ["accepted", 1, ["large"]],
    ]);
    expect(
      (await juno.ask<AnswerLine[]>("GET", `/api/form-answers/${now[0]?.id}/older`)).body.map(
        ({ answer }) => answer.questions,
      ),
    ).toEqual([["small"]]);
    // A sibling, by the same link: the address is confirmed already.
    expect((await get(`/f/autumn?mine=${token}`)).body).toContain('value="Holm"');
    await post("/f/autumn", {
      ...una,
      given: "Per",
      class: "Trapeze Two",
      language: "en",
      mine: token,
      changes: "",
    });
    expect((await answers("q=per holm")).map(({ state }) => state)).toEqual(["accepted"]);
    expect(
      (
        await post("/f/autumn", {
          ...una,
          address: "otto.new@lettr.example",
          language: "en",
          mine: token,
          changes: now[0]?.id ?? "",
        })
      ).body,
    ).toContain("Look in your mailbox");
    expect((await answers("q=una holm&state=accepted"))[0]?.answer.address).toBe(
      "otto@lettr.example",
    );
    await confirm("otto.new@lettr.example");
    expect(
      (await answers("q=una holm&state=accepted")).map(({ answer }) => answer.address),
    ).toEqual(["otto.new@lettr.example"]);
  });

  test("for a child that no sheet has is asked about, with who was probably meant; refused or taken, the family is told", async () => {
    await fill({ ...WREN, given: "Wrenn", address: "slip@lettr.example" });
    await confirm("slip@lettr.example");
    const [asked] = await answers("state=asked");
    expect(asked?.why).toBe("No sheet has a child called Wrenn Eastlake. Was Wren Eastlake meant?");
    expect(
      (await juno.ask("POST", `/api/form-answers/${asked?.id}/decision`, { take: false })).body,
    ).toEqual({ state: "refused" });
    expect(
      (await juno.ask("POST", `/api/form-answers/${asked?.id}/decision`, { take: true })).status,
    ).toBe(409);
    await house.mailTo("slip@lettr.example", "could not take your answer");
  });

  test("for a child that somebody speaks for is held, and overwrites nothing before a yes", async () => {
    await fill({
      ...WREN,
      given: "Ida",
      family: "Brandt",
      name: "Mallory Smith",
      address: "mallory@oakmail.example",
    });
    await confirm("mallory@oakmail.example");
    await fill({
      ...WREN,
      given: "Ida",
      family: "Brandt",
      name: "Halim Brandt",
      address: "halim.new@oakmail.example",
    });
    await confirm("halim.new@oakmail.example");
    const held = await answers("state=held");
    expect(held.map(({ why }) => why)).toEqual([
      "Halim Brandt is known with another address: halim@oakmail.example. Is halim.new@oakmail.example theirs as well?",
      "Halim Brandt speaks for Ida Brandt already. May Mallory Smith as well?",
    ]);
    await readForms(house.amigo.context);
    expect((await openCauses()).filter((sentence) => sentence.includes("Mallory"))).toEqual([]);
    expect(
      (await juno.ask("POST", `/api/form-answers/${held[1]?.id}/decision`, { take: true })).body,
    ).toEqual({ state: "accepted" });
    await until("the cause", openCauses, (causes) =>
      causes.some((sentence) => sentence.includes("Mallory Smith")),
    );
  });

  test("says the same whoever asks for whomever: neither child nor address is told to be known", async () => {
    const pages = [];
    for (const given of ["Ida", "Nobody"])
      pages.push(
        (await fill({ ...WREN, given, family: "Brandt", address: "curious@oakmail.example" })).body,
      );
    expect(pages[0]).toBe(pages[1]);
    const link = linkIn(await house.mailTo("curious@oakmail.example", "Please confirm"));
    const { body } = await post(link, {});
    expect(body.match(/is with the office/g)).toHaveLength(2);
  });

  test("second guardians count once they have said so themselves", async () => {
    await fill({ ...WREN, secondName: "Sven Eastlake", secondAddress: "sven@oakmail.example" });
    await confirm("tove@lettr.example");
    expect((await answers("q=wren&state=accepted"))[0]?.second).toBe("waiting");
    const link = linkIn(await house.mailTo("sven@oakmail.example", "you were named as a guardian"));
    expect((await get(link)).body).toContain("Tove Eastlake has named you");
    expect((await post(link, {})).body).toContain("Thank you");
    expect((await post(link, {})).status).toBe(404);
    expect((await answers("q=wren&state=accepted"))[0]?.second).toBe("confirmed");
    await until("the cause", openCauses, (causes) =>
      causes.some((sentence) => sentence.includes("Sven Eastlake")),
    );
  });
});

describe("what is wrong", () => {
  test("is told at each field, what was written stays, and what was meant can be taken without a script", async () => {
    const wrong = await fill({
      ...WREN,
      given: "",
      address: "tove@lettr,example",
      consent: "",
      class: "Flying",
    });
    expect(wrong.status).toBe(422);
    expect(wrong.body).toContain('role="alert"');
    for (const field of ["given", "class", "consent"])
      expect(wrong.body).toContain(`id="fault-${field}"`);
    expect(wrong.body).toContain("Did you mean tove@lettr.example?");
    expect(wrong.body).toContain('value="tove@lettr,example"');
    await fill({
      ...WREN,
      given: "Per",
      family: "Holm",
      address: "per@lettr,example",
      "was.address": "per@lettr,example",
      "take.address": "per@lettr.example",
    });
    await house.mailTo("per@lettr.example", "Please confirm");
    expect(
      JSON.parse((await post("/f/autumn/check", { address: "a@oakmial.example" })).body),
    ).toMatchObject({ proposal: expect.any(String) });
  });

  test("texts of strangers stay texts, in pages, mails and sheets", async () => {
    const evil = {
      ...WREN,
      given: "<img src=x onerror=alert(1)>",
      family: '=HYPERLINK("x")',
      name: "A\r\nBcc: all@oakmail.example",
      address: "evil@oakmail.example",
    };
    await fill(evil);
    const mail = await house.mailTo("evil@oakmail.example", "Please confirm");
    expect(mail.slice(0, mail.indexOf("\r\n\r\n"))).not.toMatch(/^Bcc/m);
    expect((await get(linkIn(mail))).body).toContain("&lt;img src=x onerror=alert(1)&gt;");
    const csv = await juno.ask<string>("GET", `/api/forms/${id}/answers.csv`);
    expect(csv.body).toContain("'=HYPERLINK");
  });

  test("what comes quicker than anybody writes, or without the form having been opened, is shown once more with all that was written", async () => {
    const before = (await answers("state=unconfirmed")).length;
    const quick = await post("/f/autumn", {
      ...WREN,
      address: "quick@oakmail.example",
      language: "en",
      begun: hidden((await get("/f/autumn")).body, "begun"),
    });
    expect([quick.status, quick.body]).toEqual([422, expect.stringContaining("That was quick")]);
    expect(quick.body).toContain('value="quick@oakmail.example"');
    const forged = await post("/f/autumn", { ...WREN, language: "en", begun: "lkj.forged" });
    expect([forged.status, hidden(forged.body, "begun")]).toEqual([
      422,
      expect.not.stringContaining("forged"),
    ]);
    expect((await answers("state=unconfirmed")).length).toBe(before);
    expect((await fill({ ...WREN, address: "quick@oakmail.example" })).body).toContain(
      "Look in your mailbox",
    );
  });

  test("one look at the form serves for one answer, and for the same pressed twice", async () => {
    const proof = begun();
    const send = (address: string) =>
      post("/f/autumn", { ...WREN, address, language: "en", begun: proof });
    expect((await send("once@oakmail.example")).body).toContain("Look in your mailbox");
    expect((await send("once@oakmail.example")).body).toContain("Look in your mailbox");
    const another = await send("twice@oakmail.example");
    expect([another.status, hidden(another.body, "begun")]).toEqual([
      422,
      expect.not.stringContaining(proof),
    ]);
    expect(another.body).toContain('value="twice@oakmail.example"');
  });

  test("robots are thanked and forgotten, and nobody's mailbox is filled", async () => {
    const before = (await answers("state=unconfirmed")).length;
    const robot = { ...WREN, address: "robot@oakmail.example" };
    expect((await fill({ ...robot, website: "https://x.example" })).body).toContain(
      "Look in your mailbox",
    );
    expect((await answers("state=unconfirmed")).length).toBe(before);
    for (let time = 0; time < 6; time++)
      await fill({ ...WREN, given: `Child ${time}`, address: "victim@oakmail.example" });
    await until(
      "mails",
      () => house.sink.mails.filter(({ to }) => to === "victim@oakmail.example").length,
      (count) => count === 3,
    );
    const stranger = (await get("/f/mine/AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA")).status;
    expect([stranger, (await get("/f/nothing")).status]).toEqual([404, 404]);
  });
});

describe("looking after a form", () => {
  test("speaks the languages that somebody has written, by the browser's wish or by a link", async () => {
    expect(
      (await get("/f/autumn", { "Accept-Language": "fr;q=0.9, de-CH;q=0.8, en;q=0.1" })).body,
    ).toContain("Vorname des Kindes");
    expect((await get("/f/autumn?language=en", { "Accept-Language": "de" })).body).toContain(
      "Child&#39;s first name",
    );
  });

  test("is changed by one at a time; a new text of the consent is a new version; dates open and close it", async () => {
    const found = (await juno.ask<FormPage>("GET", `/api/forms/${id}`)).body;
    // A notice speaks the form's languages, whatever the coordinator's is.
    expect(found.noticeLines).toMatchObject({
      en: expect.stringMatching(/^Point your phone/),
      de: expect.stringMatching(/^Halten Sie/),
    });
    expect(found.consent).toBe(1);
    const content = {
      ...found.content,
      words: found.content.words.map((words) => ({ ...words, consent: `${words.consent} New.` })),
    };
    const wanted = { slug: found.slug, content, mode: found.mode, version: found.version };
    expect((await juno.ask("PUT", `/api/forms/${id}`, wanted)).status).toBe(200);
    expect((await juno.ask<{ type: string }>("PUT", `/api/forms/${id}`, wanted)).body.type).toBe(
      "urn:amigo:fault:form/changed",
    );
    const now = (await juno.ask<FormPage>("GET", `/api/forms/${id}`)).body;
    expect(now.consent).toBe(2);
    await juno.ask("PUT", `/api/forms/${id}`, {
      ...wanted,
      content: { ...content, closesOn: "2020-01-01" },
      version: now.version,
    });
    await until(
      "the closed form",
      async () => (await get("/f/autumn")).body,
      (body) => body.includes("This form is closed"),
    );
    expect((await fill(WREN)).body).toContain("This form is closed");
    await juno.ask("PUT", `/api/forms/${id}`, { ...wanted, content, version: now.version + 1 });
    expect(
      (
        await juno.ask<{ detail: string }>("PUT", `/api/forms/${id}`, {
          ...wanted,
          content: { ...content, opensOn: "2027-02-01", closesOn: "2027-01-01" },
          version: 1,
        })
      ).body.detail,
    ).toContain("would close before it opens");
  });

  test("a lead makes one for the classes that he leads, sees his own only, and lets no round carry itself out", async () => {
    const ravi = await house.signIn(RAVI);
    const { body } = await ravi.ask<{ forms: unknown[]; choices: { key: string; name: string }[] }>(
      "GET",
      "/api/forms",
    );
    expect(body.forms).toEqual([]);
    expect(body.choices.map(({ name }) => name)).toContain("Trapeze Two");
    expect(body.choices.map(({ name }) => name)).not.toContain("Wire Walk");
    const content = {
      ...FORM,
      words: FORM.words.map((words) => ({ ...words, title: "Trapeze" })),
      cohorts: [] as string[],
    };
    expect(
      (
        await ravi.ask<{ type: string }>("POST", "/api/forms", {
          slug: "trapeze",
          content,
          mode: "itself",
        })
      ).body.type,
    ).toBe("urn:amigo:fault:form/classes");
    const made = await ravi.ask<{ id: string }>("POST", "/api/forms", {
      slug: "trapeze",
      content: {
        ...content,
        cohorts: body.choices.filter(({ name }) => name === "Trapeze Two").map(({ key }) => key),
      },
      mode: "itself",
    });
    expect(made.status).toBe(200);
    expect((await ravi.ask<FormPage>("GET", `/api/forms/${made.body.id}`)).body).toMatchObject({
      mode: "ask",
      mayStep: false,
    });
    for (const path of [
      "",
      "/answers",
      "/missing",
      "/answers.csv",
      "/qr.svg",
      "/notice.pdf",
      "/slips.pdf",
    ])
      expect((await ravi.ask("GET", `/api/forms/${id}${path}`)).status, path).toBe(404);
    expect(
      (
        await ravi.ask("POST", `/api/form-answers/${(await answers())[0]?.id}/decision`, {
          take: true,
        })
      ).status,
    ).toBe(404);
    expect((await get("/f/trapeze")).body).not.toContain("Wire Walk");
  });

  test("the code leads to the address, as SVG, as PNG and on a notice; nobody signed out has them", async () => {
    const svg = await juno.ask<string>("GET", `/api/forms/${id}/qr.svg`);
    expect(svg.body).toMatch(/^<svg/);
    for (const [path, start] of [
      ["qr.png", "\u0089PNG"],
      ["notice.pdf?line=Łódź%20calling", "%PDF"],
    ] as const) {
      const response = await fetch(`${house.url}/api/forms/${id}/${path}`, {
        headers: { Cookie: juno.cookie },
      });
      expect(Buffer.from(await response.arrayBuffer()).toString("latin1", 0, 4)).toBe(start);
    }
    expect((await house.client().ask("GET", `/api/forms/${id}/slips.pdf`)).status).toBe(401);
  });

  test("who has not answered is told with the ways that are left; the code of their slip speaks for the child", async () => {
    const missing = async (): Promise<MissingStudent[]> =>
      (await juno.ask<{ students: MissingStudent[] }>("GET", `/api/forms/${id}/missing`)).body
        .students;
    const eloise = (await missing()).find(({ name }) => name === "Éloïse Quist");
    expect(eloise).toMatchObject({
      why: "no answer",
      classes: ["Wire Walk"],
      by: expect.arrayContaining([
        { id: expect.stringMatching(/^g-/), who: "Ana Quist", address: "ana.quist@lettr.example" },
      ]),
    });
    const pdf = await fetch(`${house.url}/api/forms/${id}/slips.pdf`, {
      headers: { Cookie: juno.cookie },
    });
    expect(Buffer.from(await pdf.arrayBuffer()).toString("latin1", 0, 4)).toBe("%PDF");
    const { rows } = await house.amigo.context.db.execute<{ code: string }>(
      sql`select code from form_code where student = ${eloise?.id ?? ""}`,
    );
    const quist = {
      ...WREN,
      given: "Eloise",
      family: "Quist",
      class: "Wire Walk",
      name: "Ana Quist",
      address: "ana.other@lettr.example",
      "question.0": "",
    };
    await fill({ ...quist, code: rows[0]?.code ?? "" });
    await confirm("ana.other@lettr.example");
    expect((await answers("q=quist")).map(({ state }) => state)).toEqual(["accepted"]);
    expect((await missing()).map(({ name }) => name)).not.toContain("Éloïse Quist");
    // Another child's code is nothing but letters.
    await fill({
      ...quist,
      given: "Ida",
      family: "Brandt",
      class: "Trapeze Two",
      address: "thief@lettr.example",
      code: rows[0]?.code ?? "",
    });
    await confirm("thief@lettr.example");
    expect((await answers("q=thief")).map(({ state }) => state)).toEqual(["held"]);
  });

  test("its sheet is a source like any other, which no file overwrites", async () => {
    const sources = (
      await juno.ask<{ id: string; name: string; kind: string; last: { rows: number } | null }[]>(
        "GET",
        "/api/sources",
      )
    ).body;
    const source = sources.find(({ kind }) => kind === "form");
    expect(source?.last?.rows).toBeGreaterThan(2);
    const into = await house.read(juno, "autumn-roster.xlsx", { id: source?.id ?? "" });
    expect(into.body.detail).toContain("families' answers to its form");
    const people = await juno.ask("GET", "/api/people?q=tove eastlake");
    expect(JSON.stringify(people.body)).toContain("tove@lettr.example");
  });
});
