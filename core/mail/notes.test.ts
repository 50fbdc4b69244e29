import { say } from "@amigo/language/say";
import { describe, expect, test } from "vitest";
import { spoken } from "../testing/spoken";
import { commentNote } from "./commentNote";
import { heldNote, isItYoursNote, manyHeldNote, type HeldMail } from "./heldNotes";
import { listsChangedNote } from "./listsChangedNote";
import { personalHeader } from "./personalHeader";
import { adviceOnProblem, adviceOnSource, kindOfSource } from "./reports/adviceOf";
import { aboutListNote, houseMailNote, leaveNote } from "./requestNotes";
import type { Note } from "./returnNote";
import { shelfReminder } from "./shelfReminder";
import { splitMessage } from "./splitMessage";

const HOUSE = "Copperwheel Circus School";
const END = `This note was written by Amigo, which looks after the lists of ${HOUSE}.`;

/** A note as its reader sees it: the subject, then each line. */
function shown(note: Note): string[] {
  const { subject, text } = spoken(() => note)();
  return [subject, ...text.split("\r\n")];
}

describe("a note about held mail", () => {
  const shoes: HeldMail = {
    subject: "Shoes",
    from: "Mo Quist <mo@lettr.example>",
    list: "wire@lists.example",
    house: HOUSE,
  };
  const links = {
    page: "https://amigo.example/mail/held",
    decide: "https://amigo.example/held/t",
    days: 5,
  };

  test("says what waits, and has a link for each decision", () => {
    expect(shown(heldNote(shoes, links))).toEqual([
      "Waits for you: Shoes",
      'A mail from Mo Quist <mo@lettr.example> to wire@lists.example waits for your decision: "Shoes".',
      "",
      "Send it out:",
      "https://amigo.example/held/t?do=out",
      "Return it to the sender, with a message:",
      "https://amigo.example/held/t?do=return",
      "Discard it:",
      "https://amigo.example/held/t?do=drop",
      "",
      "All held mail:",
      "https://amigo.example/mail/held",
      "",
      "If nobody decides, it is returned after 5 days. These links are for you alone.",
      "",
      END,
    ]);
  });

  test("tells of several one by one, each with its page, and no decision by a link alone", () => {
    const second = {
      held: { ...shoes, subject: "" },
      links: { ...links, decide: "https://amigo.example/held/u" },
    };
    expect(shown(manyHeldNote([{ held: shoes, links }, second], HOUSE))).toEqual([
      "2 mails wait for you",
      "2 mails wait for your decision. Open a link to read the mail and decide on it:",
      "",
      '1. Mo Quist <mo@lettr.example> to wire@lists.example: "Shoes"',
      "https://amigo.example/held/t",
      "",
      '2. Mo Quist <mo@lettr.example> to wire@lists.example: "(no subject)"',
      "https://amigo.example/held/u",
      "",
      "All held mail:",
      "https://amigo.example/mail/held",
      "",
      "If nobody decides, it is returned after 5 days. These links are for you alone.",
      "",
      END,
    ]);
  });

  test("asks whoever it claims to be from, with one link", () => {
    expect(shown(isItYoursNote(shoes, "https://amigo.example/mine"))).toEqual([
      "Did you write this? Shoes",
      'A mail in your name came in for wire@lists.example: "Shoes".',
      "",
      "Nothing in it proves that it is yours, so it was held. If you wrote it, say so here and it goes on its way:",
      "https://amigo.example/mine",
      "",
      "If you didn't, you don't need to do anything: unless you confirm it, it goes to nobody. The link works once, for three days.",
      "",
      END,
    ]);
  });

  test.each([
    ["", "(no subject)"],
    [" \r\n ", "(no subject)"],
    ["Shoes\r\nBcc: all@lists.example", "Shoes Bcc: all@lists.example"],
  ])("keeps the subject %j on one line", (subject, about) => {
    const mail = { ...shoes, subject, from: "Mo\r\nTo: all <mo@lettr.example>" };
    expect(shown(heldNote(mail, links)).slice(0, 2)).toEqual([
      `Waits for you: ${about}`,
      `A mail from Mo To: all <mo@lettr.example> to wire@lists.example waits for your decision: "${about}".`,
    ]);
    expect(shown(isItYoursNote(mail, ""))[0]).toBe(`Did you write this? ${about}`);
    expect(shown(manyHeldNote([{ held: mail, links }], HOUSE))[3]).toBe(
      `1. Mo To: all <mo@lettr.example> to wire@lists.example: "${about}"`,
    );
  });
});

describe("what a list answers", () => {
  const list = { title: "Wire Walk", house: HOUSE };
  const told = {
    ...list,
    address: "wire@lists.example",
    description: "Everybody on the wire.",
    sentences: ["Only leads write.", "Members are hidden."],
    leads: ["ravi@copperwheel.example", "petra@copperwheel.example"],
    leave: "wire+leave@lists.example",
    page: "https://amigo.example/member",
  };
  const page = [
    "",
    "All your lists, how often, and your addresses are on your own page; ask for its link here:",
    "https://amigo.example/member",
    "",
    END,
  ];

  test("to a question about itself: what it is, its rules, whom to ask, how to leave", () => {
    expect(shown(aboutListNote(told))).toEqual([
      "About Wire Walk",
      `Wire Walk (wire@lists.example) is a list of ${HOUSE}.`,
      "",
      "Everybody on the wire.",
      "",
      "Only leads write.",
      "Members are hidden.",
      "",
      "It is run by ravi@copperwheel.example and petra@copperwheel.example.",
      "",
      "If you are on it and want to leave, write to wire+leave@lists.example, from the address that gets its mail.",
      ...page,
    ]);
  });

  test("to that without a description, a lead or a way to leave by mail", () => {
    expect(shown(aboutListNote({ ...told, description: "", leads: [], leave: "" }))).toEqual([
      "About Wire Walk",
      `Wire Walk (wire@lists.example) is a list of ${HOUSE}.`,
      "",
      "Only leads write.",
      "Members are hidden.",
      "",
      `If you have questions, ask the office of ${HOUSE}.`,
      "",
      "To leave it, write to a lead.",
      ...page,
    ]);
  });

  test.each<[Parameters<typeof leaveNote>[1], string[]]>([
    [
      { is: "left" },
      [
        "You have left Wire Walk",
        `This address gets no more mail from Wire Walk. No sheet will put it back on; the office of ${HOUSE} can.`,
      ],
    ],
    [
      { is: "not on it" },
      [
        "About Wire Walk",
        "This address gets no mail from Wire Walk, so there is nothing to leave. If its mail reaches you, it comes by another address of yours: write from that one.",
      ],
    ],
    [
      { is: "closed" },
      [
        "About Wire Walk",
        "Wire Walk is closed and sends no more mail, so there is nothing to leave.",
      ],
    ],
    [
      { is: "through a lead", leads: [] },
      [
        "To leave Wire Walk",
        `Only a lead can take members off Wire Walk. It has none now, so reply to this mail, and ${HOUSE} will do it.`,
      ],
    ],
    [
      { is: "through a lead", leads: ["ravi@copperwheel.example", "petra@copperwheel.example"] },
      [
        "To leave Wire Walk",
        "Only a lead can take members off Wire Walk. Write to ravi@copperwheel.example or petra@copperwheel.example.",
      ],
    ],
    [
      { is: "confirm", address: "mo@lettr.example", url: "https://amigo.example/leave/t" },
      [
        "Leave Wire Walk?",
        "A mail in the name of this address asked to leave Wire Walk. If you want that, reply to this mail, or confirm it here:",
        "https://amigo.example/leave/t",
        "",
        "If it isn't, you don't need to do anything.",
      ],
    ],
  ])("to a wish to leave: %j", (state, lines) => {
    expect(shown(leaveNote(list, state))).toEqual([...lines, "", END]);
  });

  test("keeps a title of several lines out of the header", () => {
    const title = "Wire\r\nBcc: all@lists.example";
    expect(shown(leaveNote({ title, house: HOUSE }, { is: "left" }))[0]).toBe(
      "You have left Wire Bcc: all@lists.example",
    );
    expect(shown(aboutListNote({ ...told, title }))[0]).toBe("About Wire Bcc: all@lists.example");
  });
});

describe("mail to the school's own mailboxes goes on", () => {
  const mail = { mailbox: "abuse", from: "mo@lettr.example", subject: "Unwanted", house: HOUSE };
  const begin = [
    `Somebody wrote to abuse. You get it because you coordinate the lists of ${HOUSE}.`,
    "",
    "From: mo@lettr.example",
  ];
  const end =
    "The whole mail is attached. Amigo has not checked who really sent it. To answer, write a new mail.";

  test("with who is said to have written it", () => {
    expect(shown(houseMailNote(mail))).toEqual([
      "Mail to abuse: Unwanted",
      ...begin,
      "Subject: Unwanted",
      "",
      end,
    ]);
  });

  test("with whose mail has stopped, where it reports a complaint", () => {
    expect(
      shown(houseMailNote({ ...mail, subject: "", complains: "ana@oakmail.example" })),
    ).toEqual([
      "Mail to abuse: (no subject)",
      ...begin,
      "Subject: (no subject)",
      "",
      "Mail to ana@oakmail.example has stopped, because they marked a mail of a list as unwanted. You can resume it under Reach.",
      "",
      end,
    ]);
  });
});

describe("a note about a shelf", () => {
  const thing = {
    title: "Map",
    list: "Wire Walk",
    name: "Ravi Lindqvist",
    url: "https://amigo.example/s/1",
  };

  test("reminds of what wasn't opened", () => {
    expect(shown(shelfReminder(thing))).toEqual([
      "Still to open: Map",
      '"Map" is on the shelf of Wire Walk, and you have not opened it yet:',
      "  https://amigo.example/s/1",
      "",
      "Ravi Lindqvist asked for this reminder. Whoever leads the list sees who has opened what it shares.",
    ]);
  });

  test("tells what somebody said, line by line", () => {
    expect(shown(commentNote({ ...thing, text: "Good.\r\nAnd:\nthanks." }))).toEqual([
      "Ravi Lindqvist on Map",
      'Ravi Lindqvist wrote about "Map" on the shelf of Wire Walk:',
      "",
      "  Good.",
      "  And:",
      "  thanks.",
      "",
      "Read everything and answer here:",
      "  https://amigo.example/s/1",
      "",
      "You get this mail because you chose to hear what others say about it. You can stop it in the same place.",
    ]);
  });
});

describe("a note to a lead whose lists have changed", () => {
  const wire = {
    title: "Wire Walk",
    address: "wire@lists.example",
    url: "https://amigo.example/lists/1",
    joined: 2,
    left: 1,
    members: 30,
  };
  const end = `This mail comes at most once a day. It was written by Amigo, which looks after the lists of ${HOUSE}.`;

  test("says of one list in the subject what changed", () => {
    expect(shown(listsChangedNote(HOUSE, [wire]))).toEqual([
      "Wire Walk: 2 joined, 1 left",
      "A list that you lead has changed:",
      "",
      "Wire Walk (wire@lists.example)",
      "  2 joined, 1 left; 30 addresses now",
      "  https://amigo.example/lists/1",
      "",
      end,
    ]);
  });

  test("counts several in the subject", () => {
    const silks = { ...wire, title: "Silks", address: "silks@lists.example", joined: 0, left: 3 };
    expect(shown(listsChangedNote(HOUSE, [wire, silks]))).toEqual([
      "2 of your lists changed",
      "Lists that you lead have changed:",
      "",
      "Wire Walk (wire@lists.example)",
      "  2 joined, 1 left; 30 addresses now",
      "  https://amigo.example/lists/1",
      "",
      "Silks (silks@lists.example)",
      "  3 left; 30 addresses now",
      "  https://amigo.example/lists/1",
      "",
      end,
    ]);
  });
});

describe("the header of mail to somebody by themselves", () => {
  const original = splitMessage(
    new TextEncoder().encode(
      [
        "Received: from elsewhere",
        "FROM: Mo Quist <mo@lettr.example>",
        "Sender: other@lettr.example",
        "Reply-To: other@lettr.example",
        "Bcc: secret@lettr.example",
        "DKIM-Signature: v=1;",
        "\tb=abc",
        "Subject: Shoes",
        "Message-ID: <1@lettr.example>",
        "",
        "Text",
      ].join("\r\n"),
    ),
  );
  const header = (name: string, address = "mo@lettr.example"): string[] =>
    personalHeader(
      original,
      { name, address },
      { name: HOUSE, address: "through@lists.example" },
      say,
    ).split("\r\n");

  test("is the school's own, with answers to the writer and nothing of who else gets it", () => {
    expect(header("Mo Quist")).toEqual([
      `From: Mo Quist via ${HOUSE} <through@lists.example>`,
      "Reply-To: Mo Quist <mo@lettr.example>",
      "Subject: Shoes",
      "Message-ID: <1@lettr.example>",
      "",
      "",
    ]);
  });

  test.each(["", "  "])("shows the address of a writer whose name is %j", (name) => {
    expect(header(name).slice(0, 2)).toEqual([
      `From: "mo@lettr.example via ${HOUSE}" <through@lists.example>`,
      'Reply-To: "mo@lettr.example" <mo@lettr.example>',
    ]);
  });

  test("has no more fields than it should, whatever a name holds", () => {
    expect(header("Mo\r\nBcc: all@lists.example")).toHaveLength(6);
  });
});

describe("what receivers report", () => {
  test.each([
    [true, true, "ours", "Nothing to do"],
    [true, false, "handed on", "somebody has forwarded your mail"],
    [true, undefined, "handed on", "somebody has forwarded your mail"],
    [false, true, "unsigned", "without a good signature"],
    [undefined, true, "unsigned", "without a good signature"],
    [false, false, "unknown", "add it to the SPF record"],
    [undefined, undefined, "unknown", "add it to the SPF record"],
  ])("a good signature %j and a known machine %j: %s", (dkim, spf, kind, advice) => {
    expect(kindOfSource({ dkim, spf } as Parameters<typeof kindOfSource>[0])).toBe(kind);
    expect(say(adviceOnSource(kindOfSource({ dkim, spf } as never)))).toContain(advice);
  });

  test.each([
    ["starttls-not-supported", "offered no encryption"],
    ["certificate-expired", "out of date"],
    ["certificate-host-mismatch", "for another name"],
    ["certificate-not-trusted", "nobody whom senders trust"],
    ["sts-policy-fetch-error", "MTA-STS"],
    ["sts-webpki-invalid", "MTA-STS"],
    ["tlsa-invalid", "TLSA"],
    ["dnssec-invalid", "TLSA"],
    ["dane-required", "TLSA"],
    ["validation-failure", "again and again"],
    ["not-sts-", "again and again"],
    ["certificate-expired-twice", "again and again"],
    ["the dane-required", "again and again"],
    ["", "again and again"],
  ])("the problem %j has its advice", (problem, advice) => {
    expect(say(adviceOnProblem(problem))).toContain(advice);
  });
});
