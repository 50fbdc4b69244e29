import { Parser } from "htmlparser2";
import { flattened } from "./flattened";

/** What holds no words for people. */
const SILENT = new Set(["script", "style", "head", "title", "template", "noscript"]);
/** After these a new line begins. */
const BLOCKS = new Set(
  "address article aside blockquote br dd div dl dt footer form h1 h2 h3 h4 h5 h6 header hr li main nav ol p pre section table tr ul".split(
    " ",
  ),
);

/**
 * Returns the words of an HTML text as plain lines, without markup, scripts and styles. Takes time in proportion to its
 * length, however its tags are nested.
 *
 * @param most how many signs to return at most
 */
export function textOfHtml(html: string, most: number): string {
  const pieces: string[] = [];
  let length = 0;
  let silent = 0;
  const add = (piece: string): void => {
    if (length >= most) return;
    pieces.push(piece);
    length += piece.length;
  };
  const parser = new Parser({
    onopentagname: (name) => {
      if (SILENT.has(name)) silent++;
      else if (name === "td" || name === "th") add(" ");
      else if (BLOCKS.has(name)) add("\n");
    },
    onclosetag: (name) => {
      if (SILENT.has(name)) silent = Math.max(0, silent - 1);
      else if (BLOCKS.has(name)) add("\n");
    },
    ontext: (text) => {
      if (silent === 0) add(text);
    },
  });
  parser.end(flattened(html));
  return pieces
    .join("")
    .slice(0, most)
    .split("\n")
    .map((line) => line.replace(/[\s\u00a0]+/g, " ").trim())
    .join("\n")
    .replace(/\n{3,}/g, "\n\n")
    .trim();
}
