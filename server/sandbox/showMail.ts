import sanitizeHtml from "sanitize-html";
import { flattened } from "./flattened";
import { parseMail } from "./parseMail";
import { safeName } from "./safeName";
import { textOfHtml } from "./textOfHtml";

/** A message as it is shown: its text, its HTML where it has one, and what is attached. */
export interface ShownMessage {
  text: string;
  /** Sanitised: no scripts, forms, frames or styles, nothing that would be fetched from elsewhere. Empty where there is none. */
  html: string;
  attachments: { index: number; name: string; type: string; size: number }[];
}

/** How much of a text and of an HTML text is shown, in signs. */
const MOST_TEXT = 500_000;
const MOST_HTML = 2_000_000;
/** Tags inside each other beyond this many show nothing more to anybody; the words in them stay. */
const DEEPEST = 200;

/** Reads a message for showing it. */
export async function showMail(raw: Uint8Array): Promise<ShownMessage> {
  const parsed = await parseMail(raw);
  const html = typeof parsed.html === "string" ? parsed.html.slice(0, MOST_HTML) : "";
  const text = (parsed.text ?? "").trim() === "" ? textOfHtml(html, MOST_TEXT) : parsed.text;
  return {
    text: (text ?? "").slice(0, MOST_TEXT),
    html: safeHtml(html),
    attachments: parsed.attachments.map(({ filename, contentType, size }, index) => ({
      index,
      name: safeName(filename, index),
      type: contentType,
      size,
    })),
  };
}

const TAGS =
  "p div br hr span b strong i em u s sub sup small blockquote pre code ul ol li dl dt dd table thead tbody tfoot tr td th caption h1 h2 h3 h4 h5 h6 a center".split(
    " ",
  );

/** HTML of others as it may be shown. */
export function safeHtml(html: string): string {
  if (html === "") return "";
  return sanitizeHtml(flattened(html), {
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
    nestingLimit: DEEPEST,
    transformTags: {
      a: sanitizeHtml.simpleTransform("a", {
        rel: "noopener noreferrer nofollow",
        target: "_blank",
      }),
    },
  });
}
