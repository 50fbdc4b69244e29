import { expect, test } from "vitest";
import { searchTerms } from "./searchTerms";

test.each<[string, string[][]]>([
  ["Ida Brandt", [["ida", "brandt"]]],
  [
    "  Ida   Brandt \n Wren Eastlake",
    [
      ["ida", "brandt"],
      ["wren", "eastlake"],
    ],
  ],
  ["4711 4712 4713", [["4711"], ["4712"], ["4713"]]],
  ["CW-4711, CW-4712; Ida", [["cw", "4711"], ["cw", "4712"], ["ida"]]],
  [
    "CW-4711 CW-4712",
    [
      ["cw", "4711"],
      ["cw", "4712"],
    ],
  ],
  ["Ida 3A", [["ida", "3a"]]],
  ["Halim@Oakmail.example tove@lettr.example", [["halim@oakmail.example"], ["tove@lettr.example"]]],
  [" ,;\n", []],
  ["", []],
])("%j is looked for as %j", (text, wanted) => expect(searchTerms(text)).toEqual(wanted));

test("of very many words in a row six are looked for, so that no search takes ever longer to plan", () =>
  expect(searchTerms("ab ".repeat(1000))).toEqual([["ab", "ab", "ab", "ab", "ab", "ab"]]));
