import { simpleParser, type ParsedMail } from "mailparser";
import sanitizeHtml from "sanitize-html";

/** A message as it is shown: its text, its HTML where it has one, and what is attached. */
export interface ShownMessage {
  text: string;
  /** Sanitised: no scripts, forms, frames or styles, nothing that would be fetched from elsewhere. Empty where there is none. */
  html: string;
  attachments: { index: number; name: string; type: string; size: number }[];
}

/** Reads a stored message for showing it. */
export async function showMessage(raw: Buffer): Promise<ShownMessage> {
  const parsed = await simpleParser(raw, { skipImageLinks: true, skipTextToHtml: true });
  return {
    text: parsed.text ?? "",
    html: typeof parsed.html === "string" ? safeHtml(parsed.html) : "",
    attachments: parsed.attachments.map(({ filename, contentType, size }, index) => ({
      index,
      name: safeName(filename, index),
      type: contentType,
      size,
    })),
  };
}

/** One attachment of a stored message. */
export async function attachmentOf(
  raw: Buffer,
  index: number,
): Promise<{ name: string; type: string; content: Buffer } | undefined> {
  const parsed: ParsedMail = await simpleParser(raw, {
    skipImageLinks: true,
    skipTextToHtml: true,
    skipHtmlToText: true,
  });
  const found = parsed.attachments[index];
  return found === undefined
    ? undefined
    : { name: safeName(found.filename, index), type: found.contentType, content: found.content };
}

const TAGS = [
  "p",
  "div",
  "br",
  "hr",
  "span",
  "b",
  "strong",
  "i",
  "em",
  "u",
  "s",
  "sub",
  "sup",
  "small",
  "blockquote",
  "pre",
  "code",
  "ul",
  "ol",
  "li",
  "dl",
  "dt",
  "dd",
  "table",
  "thead",
  "tbody",
  "tfoot",
  "tr",
  "td",
  "th",
  "caption",
  "h1",
  "h2",
  "h3",
  "h4",
  "h5",
  "h6",
  "a",
  "center",
];

function safeHtml(html: string): string {
  return sanitizeHtml(html, {
    allowedTags: TAGS,
    allowedAttributes: {
      a: ["href", "rel", "target"],
      td: ["colspan", "rowspan"],
      th: ["colspan", "rowspan"],
      ol: ["start"],
    },
    allowedSchemes: ["http", "https", "mailto", "tel"],
    allowProtocolRelative: false,
    disallowedTagsMode: "discard",
    transformTags: {
      a: sanitizeHtml.simpleTransform("a", {
        rel: "noopener noreferrer nofollow",
        target: "_blank",
      }),
    },
  });
}

/** A file name that leads nowhere else and ends no header line. */
function safeName(name: string | undefined, index: number): string {
  const bare = (name ?? "")
    .replace(/[\u0000-\u001f\u007f-\u009f"\\/:*?<>|\u2028-\u202e]/g, "_")
    .replace(/^\.+/, "_")
    .slice(0, 120);
  return bare === "" ? `attachment-${index + 1}` : bare;
}
