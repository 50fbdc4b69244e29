import { convert } from "html-to-text";
import sanitizeHtml from "sanitize-html";

const TAGS = [
  "p",
  "br",
  "hr",
  "b",
  "strong",
  "i",
  "em",
  "u",
  "s",
  "code",
  "pre",
  "blockquote",
  "ul",
  "ol",
  "li",
  "h1",
  "h2",
  "h3",
  "a",
  "img",
];

/** The text of a draft as it may go out: the editor's own tags, links to the web and to mail, pictures of the draft itself. */
export function cleanHtml(html: string): string {
  return sanitizeHtml(html, {
    allowedTags: TAGS,
    allowedAttributes: { a: ["href"], img: ["src", "alt", "width", "height"], ol: ["start"] },
    allowedSchemes: ["http", "https", "mailto", "tel"],
    allowProtocolRelative: false,
    allowedSchemesByTag: { img: ["cid"] },
    exclusiveFilter: ({ tag, attribs }) =>
      tag === "img" && !/^(\/api\/drafts\/|cid:)/.test(attribs.src ?? ""),
  });
}

/** The plain text that goes with the HTML of a mail. */
export function textOf(html: string): string {
  return convert(html, {
    wordwrap: 78,
    selectors: [
      { selector: "img", format: "skip" },
      { selector: "a", options: { hideLinkHrefIfSameAsText: true } },
      ...["h1", "h2", "h3"].map((selector) => ({ selector, options: { uppercase: false } })),
    ],
  }).replace(/\n{3,}/g, "\n\n");
}

/** The HTML with its pictures named as the parts of the mail that they are (RFC 2392). */
export function withParts(html: string, files: readonly { id: string; cid: string }[]): string {
  return files.reduce(
    (text, { id, cid }) =>
      cid === ""
        ? text
        : text.replace(
            new RegExp(`src="/api/drafts/[0-9a-f-]{36}/files/${id}"`, "g"),
            `src="cid:${cid}"`,
          ),
    html,
  );
}
