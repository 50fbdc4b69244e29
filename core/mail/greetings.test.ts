import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  askNote as askNoteUnsaid,
  howToLeave as howToLeaveUnsaid,
  welcomeNote as welcomeNoteUnsaid,
  type GreetingOf,
} from "./greetings";
import { fillWelcome, welcomeFaults as welcomeFaultsUnsaid, WELCOME_FIELDS } from "./welcomeText";
import { spoken } from "../testing/spoken";

const welcomeNote = spoken(welcomeNoteUnsaid);
const askNote = spoken(askNoteUnsaid);
const howToLeave = spoken(howToLeaveUnsaid);
const welcomeFaults = spoken(welcomeFaultsUnsaid);

const LIST: GreetingOf = {
  house: "Copperwheel Circus School",
  title: "Trapeze Two, guardians",
  address: "ml-trapeze2@lists.copperwheel.example",
  description: "",
  welcome: "",
  lead: "Sunniva Hale",
  howToLeave:
    "To leave, write to ml-trapeze2+leave@lists.copperwheel.example from this address, or use the link in any mail of the list.",
  page: "https://amigo.copperwheel.example/member",
  shelf: "",
};
const HALIM = {
  "first name": "Halim",
  name: "Halim Brandt",
  children: "Ida",
  class: "Trapeze Two",
};

/** A note as its reader sees it. */
const linesOf = ({ text }: { text: string }): string[] => text.split("\r\n");

describe("what a greeting says, line by line", () => {
  const PAGE = "https://amigo.copperwheel.example/member";
  const ON_IT =
    "this address is on the list Trapeze Two, guardians (ml-trapeze2@lists.copperwheel.example) of Copperwheel Circus School from now on. It is led by Sunniva Hale.";
  const END =
    "This mail was sent by Amigo, which looks after the lists of Copperwheel Circus School.";
  const WELCOMED = `${END} If you got it by mistake, reply to this mail.`;

  test("in the usual words", () => {
    expect(linesOf(welcomeNote({ ...LIST, welcome: " \n" }, HALIM))).toEqual([
      "Hello Halim,",
      "",
      ON_IT,
      "",
      LIST.howToLeave,
      "",
      "All your lists, how often, and your addresses are on your own page:",
      PAGE,
      "",
      WELCOMED,
    ]);
  });

  test("with what the list is for, and what is on its shelf", () => {
    const lines = linesOf(
      welcomeNote({ ...LIST, description: "For news.", shelf: "Kit list\r\n  url" }, HALIM),
    );
    expect(lines.slice(2, 6)).toEqual([ON_IT, "", "For news.", ""]);
    expect(lines.slice(9)).toEqual([
      PAGE,
      "",
      "What is shared with this list:",
      "Kit list",
      "  url",
      "",
      WELCOMED,
    ]);
  });

  test("in the list's own words", () => {
    expect(
      linesOf(welcomeNote({ ...LIST, welcome: "Dear {first name},\nwelcome." }, HALIM)),
    ).toEqual(["Dear Halim,", "welcome.", "", WELCOMED]);
  });

  test("as a question", () => {
    const asked = askNote(LIST, "Juno\r\nAbara", "https://amigo.copperwheel.example/join/t");
    expect(linesOf(asked)).toEqual([
      "Hello,",
      "",
      "Juno Abara would like to put this address on the list Trapeze Two, guardians (ml-trapeze2@lists.copperwheel.example) of Copperwheel Circus School.",
      "",
      "If you want its mail, say yes here, or answer this mail:",
      "https://amigo.copperwheel.example/join/t",
      "",
      "If you don't, you don't need to do anything: without your yes nothing is sent to you.",
      "",
      END,
    ]);
    const described = askNote({ ...LIST, description: "For news." }, "Juno Abara", "u", true);
    expect(linesOf(described).slice(3, 7)).toEqual([
      "",
      "For news.",
      "",
      "If you want its mail, say yes here, or answer this mail:",
    ]);
  });
});

describe("a welcome", () => {
  test("finds the words where the list has none, and tells what the list is for", () => {
    const { subject, text } = welcomeNote(
      { ...LIST, description: "News of {class} and more" },
      HALIM,
    );
    expect(subject).toBe("Welcome to Trapeze Two, guardians");
    expect(text).toContain(
      "this address is on the list Trapeze Two, guardians (ml-trapeze2@lists.copperwheel.example) of Copperwheel Circus School",
    );
    for (const words of [
      "Hello Halim,",
      "It is led by Sunniva Hale.",
      "News of {class} and more",
      "ml-trapeze2+leave@",
      "https://amigo.copperwheel.example/member",
    ])
      expect(text).toContain(words);
    expect(welcomeNote(LIST, {}).text).toMatch(/^Hello,\r\n/);
  });

  test("tells what is on the list's shelf, where there is something, in whatever words", () => {
    const shelf = "Kit list\r\n  https://amigo.copperwheel.example/member/shelf/1";
    const { text } = welcomeNote({ ...LIST, shelf }, HALIM);
    expect(text).toContain(`What is shared with this list:\r\n${shelf}`);
    expect(welcomeNote(LIST, HALIM).text).not.toContain("shared");
    const welcome = "Hi.{if shelf} Read:\n{shelf}{end}";
    expect(welcomeNote({ ...LIST, shelf, welcome }, HALIM).text).toContain("Read:\r\nKit list\r\n");
    expect(welcomeNote({ ...LIST, welcome }, HALIM).text).toMatch(/^Hi\.\r\n/);
  });

  test("in the list's own words has their parts filled in, and unknown ones left as they are", () => {
    const { text } = welcomeNote(
      { ...LIST, welcome: "Dear all,\nthis is {list} of {house}: {address} {secret}" },
      {},
    );
    expect(
      text.startsWith(
        "Dear all,\r\nthis is Trapeze Two, guardians of Copperwheel Circus School: ml-trapeze2@lists.copperwheel.example {secret}\r\n",
      ),
    ).toBe(true);
  });

  test("a title can't bring a header line of its own", () => {
    expect(
      welcomeNote({ ...LIST, title: "Wire\r\nBcc: all@lettr.example" }, {}).subject,
    ).not.toMatch(/[\r\n]/);
    expect(
      askNote({ ...LIST, title: "Wire\nBcc: x" }, "Juno\nAbara", "http://x").subject,
    ).not.toMatch(/[\r\n]/);
  });
});

test("a question names who asks, the list, the link, and that silence is a no", () => {
  const { subject, text } = askNote(LIST, "Juno Abara", "https://amigo.copperwheel.example/yes/t");
  expect(subject).toBe("Would you like to be on Trapeze Two, guardians?");
  for (const words of [
    "Juno Abara would like to put this address on the list",
    "https://amigo.copperwheel.example/yes/t",
    "without your yes nothing is sent to you",
  ])
    expect(text).toContain(words);
});

test("the second question says that it is the last", () => {
  const { subject, text } = askNote(
    LIST,
    "Juno Abara",
    "https://amigo.copperwheel.example/yes/u",
    true,
  );
  expect(subject).toBe("Once more: would you like to be on Trapeze Two, guardians?");
  expect(text).toContain("you are not asked again");
});

test.each([
  [
    "by oneself",
    ["Sunniva Hale"],
    "To leave, write to ml-trapeze2+leave@lists.copperwheel.example",
  ],
  ["through a lead", ["Sunniva Hale", "Odile Marchetti"], "ask Sunniva Hale or Odile Marchetti."],
  [
    "through a lead",
    [],
    "write to Copperwheel Circus School at postmaster@lists.copperwheel.example.",
  ],
])("how to leave, %s", (leaving, leads, words) =>
  expect(
    howToLeave(
      { title: "Trapeze Two", name: "ml-trapeze2", domain: "lists.copperwheel.example", leaving },
      leads,
      "Copperwheel Circus School",
    ),
  ).toContain(words),
);

describe("the words of a welcome", () => {
  test.each<[string, string, Record<string, string>]>([
    ["Dear {first name}", "Dear Halim", HALIM],
    ["Dear {first name|friend}", "Dear friend", {}],
    ["Dear {First Name}", "Dear Halim", HALIM],
    ["{if class}In {class}.{else}In no class.{end}", "In Trapeze Two.", HALIM],
    ["{if class}In {class}.{else}In no class.{end}", "In no class.", {}],
    ["{if class}{if children}{children} in {class}{end}{end}!", "Ida in Trapeze Two!", HALIM],
    ["a\n{if class}\nb\n{end}\nc", "a\nb\nc", HALIM],
    ["a\n{if class}\nb\n{end}\nc", "a\nc", {}],
    ["{if class}never ended", "never ended", HALIM],
    ["{else}{end}", "{else}{end}", {}],
    ["{secret} {}", "{secret} {}", {}],
  ])("%j says %j", (text, told, values) => expect(fillWelcome(text, values)).toBe(told));

  test.each<[string, number, RegExp]>([
    ["Dear {frist name}", 5, /nothing called “frist name”/],
    ["a {else}", 2, /no \{if/],
    ["ab {end}", 3, /no \{if/],
    ["x{if class} y", 1, /has no \{end\}/],
    ["{if clas}x{end}", 0, /nothing called “clas”/],
    ["{if class}a{else}b{else}c{end}", 18, /no \{if/],
  ])("%j is not right at %i", (text, at, sentence) => {
    const [fault] = welcomeFaults(text);
    expect(fault?.at).toBe(at);
    expect(fault?.sentence).toMatch(sentence);
  });

  const piece: fc.Arbitrary<string> = fc.letrec<{ piece: string }>((tie) => ({
    piece: fc.oneof(
      { maxDepth: 3 },
      fc.string({ unit: fc.constantFrom("a", "é", " ", "\n", "|") }),
      fc.constantFrom(...WELCOME_FIELDS).map((field) => `{${field}}`),
      fc
        .tuple(fc.constantFrom(...WELCOME_FIELDS), tie("piece"), tie("piece"))
        .map(([field, then, otherwise]) => `{if ${field}}${then}{else}${otherwise}{end}`),
    ),
  })).piece;

  test("whatever is put together by the grammar has no fault and leaves no brace behind", () => {
    fc.assert(
      fc.property(fc.array(piece), (pieces) => {
        const text = pieces.join("");
        expect(welcomeFaults(text)).toEqual([]);
        expect(fillWelcome(text, HALIM)).not.toMatch(/[{}]/);
      }),
    );
  });

  test("a value is never read as words of the template, and any text can be filled in", () => {
    fc.assert(
      fc.property(fc.string(), (value) => {
        expect(fillWelcome("a{name}b", { name: value })).toBe(value === "" ? "ab" : `a${value}b`);
      }),
    );
    fc.assert(
      fc.property(
        fc.string({
          unit: fc.constantFrom("{", "}", "if ", "else", "end", "class", "|", "\n", "x"),
        }),
        (text) => {
          fillWelcome(text, HALIM);
          for (const { at } of welcomeFaults(text)) expect(text[at]).toBe("{");
        },
      ),
    );
  });
});
