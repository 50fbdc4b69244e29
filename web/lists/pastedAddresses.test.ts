import fc from "fast-check";
import { expect, test } from "vitest";
import { readPasted } from "./pastedAddresses";

test("a pasted text is told apart: what can be used, what was repaired, what is no address", () => {
  const read = readPasted(
    "Anna Lind <anna@oakmail.example>; ben@oakmail,example\nnot an address\nANNA@oakmail.example",
  );
  expect(read.good).toEqual(["anna@oakmail.example", "ben@oakmail.example"]);
  expect(read.repaired).toEqual([
    { written: "ben@oakmail,example", address: "ben@oakmail.example" },
  ]);
  expect(read.bad.join(" ")).toContain("not an address");
});

test.each(["", "   ", "\n\n;,"])("%j holds nothing", (text) => {
  expect(readPasted(text)).toEqual({ pieces: [], good: [], repaired: [], bad: [] });
});

test("an address that is there twice is counted once, and each piece is kept as it was written", () => {
  const read = readPasted("a@lettr.example A@LETTR.example");
  expect(read.good).toEqual(["a@lettr.example"]);
  expect(read.pieces).toEqual(["a@lettr.example", "A@LETTR.example"]);
});

test("clean addresses are all found, however they are separated, in their order", () => {
  const address = fc
    .tuple(fc.stringMatching(/^[a-z][a-z0-9]{0,8}$/), fc.stringMatching(/^[a-z]{2,8}$/))
    .map(([box, domain]) => `${box}@${domain}.example`);
  fc.assert(
    fc.property(
      fc.uniqueArray(address, { minLength: 1, maxLength: 20 }),
      fc.constantFrom("\n", ", ", ";", " ", "\r\n", "\t"),
      (addresses, separator) => {
        const read = readPasted(addresses.join(separator));
        expect(read.good).toEqual(addresses);
        expect(read.bad).toEqual([]);
      },
    ),
  );
});
