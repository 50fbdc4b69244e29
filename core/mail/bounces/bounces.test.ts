import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import { splitMessage } from "../splitMessage";
import { BOUNCE_SORTS, type BounceSort, type ReturnedMail } from "./form";
import { refusalIn } from "./refusalIn";
import { sortBounce } from "./sortBounce";
import { isForGood, isOfAddress, sortOf, sortWords } from "./sortOf";

const mail = ({
  header = "",
  returnPath = "",
  subject = "Undelivered Mail Returned to Sender",
  text = "",
  report = "",
}): ReturnedMail => ({
  split: splitMessage(
    new TextEncoder().encode(
      `${header}${header === "" ? "" : "\r\n"}Subject: ${subject}\r\n\r\n${text}`,
    ),
  ),
  returnPath,
  subject,
  text,
  report,
});

const dsn = (action: string, status: string, diagnostic = ""): string =>
  [
    "Reporting-MTA: dns; mx.oakmail.example",
    "",
    "Final-Recipient: rfc822; halim@oakmail.example",
    `Action: ${action}`,
    `Status: ${status}`,
    ...(diagnostic === "" ? [] : [`Diagnostic-Code: ${diagnostic}`]),
    "",
  ].join("\r\n");

const CASES: [string, Partial<Parameters<typeof mail>[0]>, BounceSort, string][] = [
  [
    "a report of no such mailbox",
    { report: dsn("failed", "5.1.1", "smtp; 550 5.1.1 <halim@oakmail.example>: user unknown") },
    "no mailbox",
    "delivery status",
  ],
  [
    "a report that says nothing in its status but in its words",
    {
      report: dsn(
        "failed",
        "5.0.0",
        "smtp; 550-5.1.1 The email account that you tried to reach does not exist",
      ),
    },
    "no mailbox",
    "delivery status",
  ],
  [
    "a report folded over lines",
    { report: dsn("failed", "5.0.0", "smtp; 552 the\r\n  mailbox is full") },
    "full",
    "delivery status",
  ],
  [
    "a report of no such domain",
    {
      report: dsn(
        "failed",
        "5.4.4",
        "x-local; Host or domain name not found. Name service error for name=oakmial.example",
      ),
    },
    "no domain",
    "delivery status",
  ],
  [
    "a report of a full mailbox for good",
    { report: dsn("failed", "5.2.2", "smtp; 552 5.2.2 Over quota") },
    "full",
    "delivery status",
  ],
  [
    "a report that mail is late",
    { report: dsn("delayed", "4.4.1", "smtp; connection timed out") },
    "not a bounce",
    "delivery status",
  ],
  [
    "a late report whose words sound final",
    { report: dsn("delayed", "4.0.0", "user unknown") },
    "not a bounce",
    "delivery status",
  ],
  [
    "a report of too large a mail",
    { report: dsn("failed", "5.3.4", "smtp; 552 5.3.4 Message size exceeds fixed limit") },
    "too large",
    "delivery status",
  ],
  [
    "a report of unwanted mail",
    { report: dsn("failed", "5.7.1", "smtp; 550 5.7.1 Message rejected as spam") },
    "unwanted",
    "delivery status",
  ],
  [
    "a report of relaying",
    { report: dsn("failed", "5.7.1", "smtp; 554 5.7.1 Relay access denied") },
    "policy",
    "delivery status",
  ],
  [
    "a report that leaves the reason to its part for people",
    {
      report: dsn("failed", "5.0.0"),
      text: "This message was created automatically.\r\nIt could not be delivered:\r\n\r\n  halim@oakmail.example\r\n    550 5.1.1 no such user here\r\n\r\nReporting-MTA: dns; quota.oakmail.example\r\n",
    },
    "no mailbox",
    "delivery status",
  ],
  [
    "a report that it was delivered",
    { report: dsn("delivered", "2.0.0") },
    "not a bounce",
    "delivery status",
  ],
  [
    "a report of two recipients, one of whom failed",
    {
      report: `${dsn("delivered", "2.0.0")}\r\nFinal-Recipient: rfc822; b@oakmail.example\r\nAction: failed\r\nStatus: 5.1.1\r\n`,
    },
    "no mailbox",
    "delivery status",
  ],
  [
    "a vacation notice",
    {
      header: "Auto-Submitted: auto-replied (vacation)",
      subject: "Out of the office: Re: Rehearsal",
      text: "I am away until Monday. For user unknown questions ask Ana.",
      returnPath: "halim@oakmail.example",
    },
    "not a bounce",
    "automatic answer",
  ],
  [
    "a vacation notice without any mark",
    {
      subject: "Abwesenheitsnotiz: Probe",
      text: "Ich bin nicht da.",
      returnPath: "halim@oakmail.example",
    },
    "not a bounce",
    "automatic answer",
  ],
  [
    "an old responder's mark",
    {
      header: "X-Autoreply: yes",
      subject: "Thank you for your mail",
      text: "We answer soon.",
      returnPath: "",
    },
    "not a bounce",
    "automatic answer",
  ],
  [
    "a challenge",
    {
      subject: "Please confirm",
      text: "To make sure that mail is not junk, please click the link below to confirm and deliver your message.",
      returnPath: "guard@oakmail.example",
    },
    "not a bounce",
    "challenge",
  ],
  [
    "a field with the failed recipients",
    {
      header: "X-Failed-Recipients: halim@oakmail.example",
      subject: "Mail delivery failed: returning message to sender",
      text: "This message was created automatically.\r\n\r\n  halim@oakmail.example\r\n    host mx.oakmail.example [192.0.2.1]\r\n    SMTP error from remote mail server after RCPT TO:\r\n    550 5.1.1 No such user here\r\n\r\n------ This is a copy of the message ------\r\nquota",
    },
    "no mailbox",
    "failed recipients field",
  ],
  [
    "a transcript",
    {
      subject: "Returned mail: see transcript for details",
      text: "   ----- The following addresses had permanent fatal errors -----\r\n<halim@oakmail.example>\r\n\r\n   ----- Transcript of session follows -----\r\n... while talking to mx.oakmail.example.:\r\n>>> DATA\r\n<<< 550 5.1.1 <halim@oakmail.example>... User unknown\r\n",
    },
    "no mailbox",
    "transcript of the session",
  ],
  [
    "a transcript of what is not for good",
    {
      subject: "Warning",
      text: "   ----- The following addresses had transient non-fatal errors -----\r\n<halim@oakmail.example>\r\n\r\n   ----- Transcript of session follows -----\r\n<<< 451 try again later\r\n",
    },
    "not a bounce",
    "transcript of the session",
  ],
  [
    "an address and the reason below",
    {
      subject: "failure notice",
      text: "I'm sorry to have to tell you that your message could not be delivered.\r\n\r\n<halim@oakmail.example>:\r\n192.0.2.1 does not like recipient.\r\nRemote host said: 550 sorry, no mailbox here by that name (#5.1.1)\r\n\r\n--- Below this line is a copy of the message.\r\n",
    },
    "no mailbox",
    "address, then reason",
  ],
  [
    "an address and a full mailbox below",
    {
      subject: "failure notice",
      text: "<halim@oakmail.example>:\r\nUser is over the quota. You can try again later.\r\n",
    },
    "full",
    "address, then reason",
  ],
  [
    "labelled lines",
    {
      subject: "Delivery failure",
      text: "Your message could not be delivered.\r\n\r\nRecipient: halim@oakmail.example\r\nReason: The mailbox does not exist\r\n",
    },
    "no mailbox",
    "labelled lines",
  ],
  [
    "labelled lines in German",
    {
      subject: "Unzustellbar: Probe",
      text: "Empfänger: halim@oakmail.example\r\nGrund: Das Postfach des Empfängers ist voll\r\n",
    },
    "full",
    "labelled lines",
  ],
  [
    "a quoted reply",
    {
      text: "The mail system at mx.oakmail.example answered:\r\n\r\n550 #5.1.0 Address rejected halim@oakmail.example\r\n",
    },
    "no mailbox",
    "a reply quoted",
  ],
  [
    "a quoted reply as unwanted",
    { text: "Remote server said: 554 Your message looks like bulk mail\r\n" },
    "unwanted",
    "a reply quoted",
  ],
  [
    "words alone",
    {
      subject: "Undeliverable: Rehearsal",
      text: "Your message did not reach some or all of the intended recipients.\r\nThe recipient no longer works here; the address was closed.\r\n",
    },
    "no mailbox",
    "words alone",
  ],
  [
    "words alone in French",
    {
      subject: "Échec de la remise",
      text: "Le destinataire inconnu : cette adresse n'existe pas.\r\n",
    },
    "no mailbox",
    "words alone",
  ],
  [
    "a return without a reason",
    { subject: "Undeliverable: Rehearsal", text: "It came back.\r\n" },
    "temporary",
    "words alone",
  ],
  [
    "a person's answer that came to the wrong address",
    {
      subject: "Re: Rehearsal",
      text: "The mailbox in front of our house is full of snails! Error 550 pages long.",
      returnPath: "halim@oakmail.example",
    },
    "not a bounce",
    "unknown",
  ],
];

describe("mail that comes back", () => {
  test.each(CASES)("%s", (_, given, sort, form) => {
    const { words, ...read } = sortBounce(mail(given));
    expect(read).toMatchObject({ sort, form });
    expect(words).not.toMatch(/[\r\n]/);
    expect(words).not.toBe("");
  });

  test("every sort has a case, and words", () => {
    expect(new Set(CASES.map(([, , sort]) => sort))).toEqual(new Set(BOUNCE_SORTS));
    expect(new Set(BOUNCE_SORTS.map((sort) => say(sortWords(sort)))).size).toBe(
      BOUNCE_SORTS.length,
    );
  });

  test("never fails, and words from a person alone never stop an address", () => {
    const piece = fc.oneof(
      fc.string({ unit: "grapheme" }),
      fc.constantFrom(
        "550 5.1.1 user unknown",
        "<a@b.example>:\n",
        "Reason: full",
        "\r\n\r\n",
        "----- Transcript of session follows -----",
        "Status: 5.1.1",
        "Action: failed",
      ),
    );
    fc.assert(
      fc.property(
        fc.array(piece, { maxLength: 12 }),
        fc.array(piece, { maxLength: 6 }),
        (text, report) => {
          const read = sortBounce(mail({ text: text.join(""), report: report.join("\n") }));
          expect(BOUNCE_SORTS).toContain(read.sort);
          expect(read.words.length).toBeLessThanOrEqual(300);
        },
      ),
    );
    fc.assert(
      fc.property(fc.lorem({ mode: "sentences" }), (text) => {
        expect(
          sortBounce(
            mail({ subject: "Re: Rehearsal on Friday", text, returnPath: "halim@oakmail.example" }),
          ).sort,
        ).toBe("not a bounce");
      }),
    );
  });
});

describe("a refusal by code, status and words", () => {
  test.each([
    [{ code: 550, words: "5.1.1 nobody takes mail here any more", status: "5.1.1" }, "no mailbox"],
    [{ code: 452, words: "4.2.2 this mailbox is full", status: "4.2.2" }, "full"],
    [{ code: 451, words: "greylisted, user unknown to us" }, "temporary"],
    [{ code: 552, words: "no" }, "full"],
    [{ code: 550, words: "no" }, "no mailbox"],
    [{ code: 554, words: "no" }, "policy"],
    [{ code: undefined, words: "connection timed out" }, "temporary"],
    [
      { code: 550, status: "5.7.26", words: "unauthenticated mail is not accepted (DMARC)" },
      "policy",
    ],
    [{ code: 550, words: "blocklist" }, "unwanted"],
  ] as const)("%j", (refused, sort) => expect(sortOf(refused)).toBe(sort));

  test("what is for now is never for good, whatever the words", () => {
    fc.assert(
      fc.property(fc.integer({ min: 400, max: 499 }), fc.string(), (code, words) => {
        expect(isForGood(sortOf({ code, words: `${words} user unknown` }))).toBe(false);
      }),
    );
    expect(BOUNCE_SORTS.filter(isForGood).every(isOfAddress)).toBe(true);
  });

  test("is found within other lines", () =>
    expect(refusalIn("host mx said:\n  550 5.1.1 gone\n  for good")).toEqual({
      code: 550,
      status: "5.1.1",
      words: "550 5.1.1 gone for good",
    }));
});
