import fc from "fast-check";
import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { learnDomains } from "./learnDomains";
import { readAddress as readAddressUnsaid } from "./readAddress";
import { splitAddresses } from "./splitAddresses";
import { spoken } from "../testing/spoken";

const readAddress = spoken(readAddressUnsaid);

const known = learnDomains([
  ...Array.from({ length: 40 }, (_, index) => `p${index}@lettr.example`),
  ...Array.from({ length: 9 }, (_, index) => `q${index}@mailhaven.example`),
  "one@mialhaven.example",
]);

test("an address in the domain of the lists is nobody's, in every way of writing it", () => {
  const known = learnDomains(["a@oakmail.example"], "lists.copperwheel.example");
  for (const written of [
    "ml-wire-parents-2627@lists.copperwheel.example",
    " ML-Wire@LISTS.copperwheel.example ",
    "ml-wire@lists,copperwheel.example",
    "mailto:ml-wire@lists.copperwheel.example",
  ])
    expect(readAddress(written, known)).toMatchObject({ answer: "unusable" });
  expect(readAddress("ida@copperwheel.example", known)).toMatchObject({ answer: "clean" });
  expect(readAddress("ida@lists.copperwheel.example", learnDomains([]))).toMatchObject({
    answer: "clean",
  });
});

describe("one written address", () => {
  test.each([
    ["una@lettr.example", "una@lettr.example", []],
    ["  UNA@Lettr.Example ", "una@lettr.example", ["upper-case"]],
    ["\u00a0una@lettr.example\u200b", "una@lettr.example", ["invisible"]],
    ["una @ lettr.example", "una@lettr.example", ["spaces"]],
    ["mailto:una@lettr.example?subject=x", "una@lettr.example", ["mailto"]],
    ["Una Holm <una@lettr.example>", "una@lettr.example", ["angle-name"]],
    ['"Holm, Una" <una@lettr.example>;', "una@lettr.example", ["angle-name"]],
    ["una@@lettr.example.", "una@lettr.example", ["trailing-dot", "double-at"]],
    ["o'hara+roster@lettr.example", "o'hara+roster@lettr.example", []],
    ["用户@例え.example", "用户@xn--r8jz45g.example", []],
  ])("%j is clean", (written, address, tidied) => {
    expect(readAddress(written, known)).toEqual({ answer: "clean", address, tidied });
  });

  test.each([
    ["una@lettr,example", "una@lettr.example", "comma-for-dot"],
    ["una@mialhaven.example", "una@mailhaven.example", "domain-slip"],
    ["una@letr.example", "una@lettr.example", "domain-slip"],
    ["una@lettr", "una@lettr.example", "impossible-domain"],
  ])("%j is probably meant as %s", (written, address, fault) => {
    expect(readAddress(written, known)).toMatchObject({
      answer: "probably",
      address,
      fault,
      why: expect.stringMatching(/^[A-Z].*\.$/),
    });
  });

  test.each([
    ["n/a", "none-word"],
    ["?", "none-word"],
    ["", "none-word"],
    ["unalettr.example", "no-at"],
    ["una@", "no-domain"],
    ["@lettr.example", "no-mailbox"],
    ["una@lettr@x.example", "several-at"],
    ["una..holm@lettr.example", "bad-sign"],
    ["una@-lettr.example", "bad-sign"],
    ["a b c", "no-at"],
    [`${"u".repeat(65)}@lettr.example`, "too-long"],
    ["una@10.0.0.1", "no-domain"],
  ])("%j can not be used: %s", (written, fault) => {
    expect(readAddress(written, known)).toMatchObject({ answer: "unusable", fault });
  });

  test.each([")", " ", ".", "(", '"', "@ "])(
    "a cell of 100,000 times %j is no address, and that is told before the test's time is up",
    (signs) => {
      const written = `a${signs.repeat(100_000)}b`;
      expect(readAddress(written, known)).toMatchObject({ answer: "unusable" });
    },
  );

  test("a missing @ before a known domain is pointed out, not guessed", () => {
    expect(readAddress("unaholmlettr.example", known)).toMatchObject({
      answer: "unusable",
      why: "There is no @ in it. It ends in lettr.example, which 40 addresses here use.",
    });
  });

  test("a domain that is new to the house is taken as it is", () => {
    expect(readAddress("una@newplace.example", known)).toMatchObject({ answer: "clean" });
  });

  test("reading what was read changes nothing, whatever comes in", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ unit: "grapheme" }),
          fc.emailAddress(),
          fc.emailAddress().map((address) => ` <${address.toUpperCase()}>.`),
        ),
        (written) => {
          const first = readAddress(written, known);
          if (first.answer === "unusable") return;
          expect(readAddress(first.address, known)).toMatchObject({
            answer: "clean",
            address: first.address,
          });
          expect(first.address).not.toMatch(/[\s\r\n<>,;]/);
        },
      ),
    );
  });
});

describe("several addresses in one text", () => {
  test("the pasted sample gives every address of the truth and what is left over", () => {
    const samples = new URL("../../demo/samples/", import.meta.url);
    const truth = JSON.parse(readFileSync(new URL("truth.json", samples), "utf8")) as {
      pasted: { distinct: string[]; left_over: string[] };
    };
    const { pieces, leftOver } = splitAddresses(
      readFileSync(new URL("pasted.txt", samples), "utf8"),
    );
    const read = pieces
      .map((piece) => readAddress(piece, known))
      .flatMap((answer) => (answer.answer === "unusable" ? [] : [answer.address]));
    expect([...new Set(read)].sort()).toEqual(truth.pasted.distinct);
    expect(leftOver).toEqual(truth.pasted.left_over);
  });

  test("addresses come out whatever stands between them", () => {
    const between = fc.constantFrom(",", ";", " ", "\t", "\n", " ; ", ", ", "|", ",,", "\r\n");
    const address = fc
      .tuple(
        fc.stringMatching(/^[a-z][a-z0-9.]{0,8}[a-z0-9]$/).filter((text) => !text.includes("..")),
        fc.constantFrom("lettr.example", "oakmail.example"),
      )
      .map(([mailbox, domain]) => `${mailbox}@${domain}`);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(address, between), { minLength: 1, maxLength: 12 }),
        (parts) => {
          const text = parts.map(([eachPart, gap]) => eachPart + gap).join("");
          expect(splitAddresses(text)).toEqual({
            pieces: parts.map(([eachPart]) => eachPart),
            names: parts.map(() => ""),
            leftOver: [],
          });
        },
      ),
    );
  });

  test.each<[string, string[], string[], string[]]>([
    ["anna@a.example, and ben@b.example", ["anna@a.example", "ben@b.example"], ["", ""], []],
    ["anna@a.example und ben@b.example", ["anna@a.example", "ben@b.example"], ["", ""], []],
    ["mora@x.example (abuela)", ["mora@x.example"], ["abuela"], []],
    [
      "Halim Brandt halim@oakmail.example, Tove Eastlake: tove@lettr.example",
      ["halim@oakmail.example", "tove@lettr.example"],
      ["Halim Brandt", "Tove Eastlake"],
      [],
    ],
    ["Brandt, Halim <halim@oakmail.example>", ["halim@oakmail.example"], ["Brandt, Halim"], []],
    [
      "Mother: ana@x.example / father: otto@y.example",
      ["ana@x.example", "otto@y.example"],
      ["Mother", ""],
      ["/ father:"],
    ],
    ["una@lettr,example; ben@b.example", ["una@lettr,example", "ben@b.example"], ["", ""], []],
    ["una@lettr, example", ["una@lettr,example"], [""], []],
    ["una@lettr, ben@b.example", ["una@lettr", "ben@b.example"], ["", ""], []],
    [
      "please write to una@lettr.example soon",
      ["una@lettr.example"],
      [""],
      ["please write to", "soon"],
    ],
    ["una @ lettr.example", ["una@lettr.example"], [""], []],
    ["mailto:una@lettr.example", ["una@lettr.example"], [""], []],
    ["@ @@ a@ @b.example", [], [], ["@ @@ a@ @b.example"]],
  ])("%s", (text, pieces, names, leftOver) =>
    expect(splitAddresses(text)).toEqual({ pieces, names, leftOver }),
  );

  test("no letter of a text gets lost", () => {
    const part = fc.constantFrom(
      "una@lettr.example",
      "@",
      " ",
      ", ",
      "Ida Brandt",
      "<",
      ">",
      "(x)",
      "\n",
      "…",
      "a.b",
    );
    fc.assert(
      fc.property(fc.array(part, { maxLength: 14 }), (parts) => {
        const text = parts.join("");
        const { pieces, names, leftOver } = splitAddresses(text);
        const out = [...pieces, ...names, ...leftOver].join("");
        const letters = (of: string): string => [...of.replace(/[^\p{L}]/gu, "")].sort().join("");
        expect(letters(out)).toBe(letters(text));
      }),
    );
  });

  test.each(["@", "a@", "(", "<", ",", " ", "\n", "a, ", '"', "a@b,", "x@y.example "])(
    "takes time in proportion to a text of %j",
    (piece) => {
      const time = (length: number): number => {
        const text = piece.repeat(Math.ceil(length / piece.length));
        const began = process.cpuUsage();
        splitAddresses(text);
        const used = process.cpuUsage(began);
        return used.user + used.system;
      };
      time(20_000);
      const short = Math.max(time(50_000), 2_000);
      expect(time(400_000)).toBeLessThan(short * 8 * 6);
    },
  );
});
