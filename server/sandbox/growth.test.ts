import { expect, test } from "vitest";
import { PIECES, slowPieces } from "@amigo/core/testing/slowPieces";
import { parseJson } from "../http/parseJson";
import { flattened } from "./flattened";
import { safeName } from "./safeName";
import { textOfHtml } from "./textOfHtml";
import { safeHtml } from "./showMail";

const HTML = [
  ...PIECES,
  "<div>",
  "</div>",
  "<b><i>",
  "<p>",
  "<a href='x'>",
  "<table><tr><td>",
  "<!--",
  "<!-- -->",
  "<script>",
  "<style>",
  "<![CDATA[",
  '<a b="',
  "<a b ",
  "&lt",
  "<title>",
  "<svg><math>",
  "<br/>",
  "</x>",
];

test.each([
  ["the words of HTML", (text: string) => textOfHtml(text, 1_000_000)],
  ["HTML that is shown", safeHtml],
  ["HTML made flat", flattened],
  ["the name of an attachment", (text: string) => safeName(text, 0)],
  ["JSON", parseJson],
])("%s: the work grows with the length and not faster", (_, run) => {
  expect(slowPieces(run, HTML)).toEqual([]);
});
