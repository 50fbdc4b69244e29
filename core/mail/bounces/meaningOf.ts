import type { BounceSort } from "./form";
import { spokenOf, type Idea } from "./ideas";

type Found = NonNullable<ReturnType<typeof spokenOf>>;
type Place = Found | undefined;
type Spoken = (idea: Idea) => Place;

/** What each sort sounds like, by the ideas that one segment speaks of, whatever its language. */
const RULES: readonly [BounceSort, (spoken: Spoken, segment: string) => boolean][] = [
  [
    "full",
    (spoken) =>
      (has(spoken, "box") &&
        (has(spoken, "full") ||
          (has(spoken, "limit") && has(spoken, "usedUp") && !isOfMessage(spoken)) ||
          (has(spoken, "size") && has(spoken, "usedUp") && !has(spoken, "message")))) ||
      (has(spoken, "room") &&
        (has(spoken, "usedUp") || has(spoken, "full") || has(spoken, "none"))),
  ],
  [
    "too large",
    (spoken) =>
      !has(spoken, "room") &&
      ((has(spoken, "message") && has(spoken, "tooBig")) ||
        (has(spoken, "size") && (has(spoken, "tooBig") || has(spoken, "overSize")))),
  ],
  [
    "unwanted",
    (spoken) =>
      has(spoken, "spam") ||
      (has(spoken, "blocked") &&
        (has(spoken, "sender") || has(spoken, "message") || has(spoken, "us"))),
  ],
  [
    "policy",
    (spoken) =>
      has(spoken, "notAllowed") ||
      (has(spoken, "sender") && has(spoken, "absent")) ||
      (has(spoken, "only") && has(spoken, "writing") && !has(spoken, "absent")),
  ],
  ["no domain", (spoken, segment) => missing(spoken, segment) === "domain" || hasNoServer(spoken)],
  ["no mailbox", (spoken, segment) => missing(spoken, segment) === "box"],
  ["temporary", (spoken) => has(spoken, "forNow")],
];

function has(spoken: Spoken, idea: Idea): boolean {
  return spoken(idea) !== undefined;
}

/** Whether a message is what is spoken of, and the mailbox only says more of it: "The message exceeds the limit of the recipient". */
function isOfMessage(spoken: Spoken): boolean {
  const [message, box] = [spoken("message"), spoken("box")];
  return message !== undefined && box !== undefined && message.from < box.from;
}

/** The longest gap of "server of the recipient", in characters. */
const OF = 14;
/** "recipient's mail domain": what stands between the two. */
const POSSESSIVE = /^('s|s|\p{L}{0,4})?( (e-?mail|mail|address))? ?$/u;

/** "doesn't exist on this server": the server is only the place. */
const ON =
  /(^| )(on|at|in|by|with|for|auf|bei|in|fur|sur|chez|dans|en|na|w|no|na|op|pa|su|da|на|у|в)( |$)/;

/** What a segment says isn't there: the domain or its server, or the mailbox. */
function missing(spoken: Spoken, segment: string): "domain" | "box" | undefined {
  if (has(spoken, "sender") || has(spoken, "us") || isGoneMessage(spoken)) return undefined;
  const box = spoken("box");
  const absent = spoken("absent");
  if (absent === undefined) return box !== undefined && isClosed(spoken) ? "box" : undefined;
  const other = spoken("domain") ?? spoken("server");
  if (other === undefined) return box === undefined ? undefined : "box";
  if (box !== undefined) return headOf({ spoken, segment, box, other, absent });
  const isPlace = other.from > absent.to && ON.test(segment.slice(absent.to, other.from));
  return isPlace ? undefined : "domain";
}

/** Whether it is the message that is gone: "Your message was removed before it came to the mailbox". */
function isGoneMessage(spoken: Spoken): boolean {
  const [message, absent, box] = [spoken("message"), spoken("absent"), spoken("box")];
  if (message === undefined || absent === undefined || box === undefined) return false;
  const isBetween = message.to <= absent.from && absent.to <= box.from;
  return isBetween && box.from - absent.to > NEXT;
}

/** The longest gap of "unknown user", in characters. */
const NEXT = 14;

/** "The domain has no mail server". */
function hasNoServer(spoken: Spoken): boolean {
  const [domain, none, server] = [spoken("domain"), spoken("none"), spoken("server")];
  if (domain === undefined || none === undefined || server === undefined) return false;
  return domain.from < none.from && none.from < server.from && !has(spoken, "forNow");
}

/** Whether a mailbox is said to take nothing, and not only for now. */
function isClosed(spoken: Spoken): boolean {
  return (
    (has(spoken, "blocked") && !has(spoken, "message")) ||
    (has(spoken, "unavailable") && !has(spoken, "forNow"))
  );
}

/** Of a mailbox and a domain or server in one segment, the one that is meant: the first that is named, as in "domain of the recipient". */
function headOf({
  spoken,
  segment,
  box,
  other,
  absent,
}: {
  spoken: Spoken;
  segment: string;
  box: Found;
  other: Found;
  absent: Found;
}): "domain" | "box" {
  if (box.from < other.from)
    return POSSESSIVE.test(segment.slice(box.to, other.from)) ? "domain" : "box";
  if (has(spoken, "domain")) return "domain";
  // "The server of the recipient isn't found", but "The server doesn't find the recipient".
  const isOfTheBox = absent.from < other.from || absent.from > box.from;
  return isOfTheBox && box.from - other.to <= OF ? "domain" : "box";
}

/** What ends a segment: a stop of some kind, or a comma with "but". */
const SEGMENT_ENDS = /[.:;!?。、，：]|, ?(?:but|aber|mais|pero|ma|mas|maar|ale|ama|но|але)(?= )/;

/**
 * Returns the sorts that plain words say in any language that is known: what they speak of and what they say of it within one
 * segment, up to a full stop, colon or semicolon.
 */
export function meaningOf(plain: string): ReadonlySet<BounceSort> {
  const meant = new Set<BounceSort>();
  for (const segment of plain.split(SEGMENT_ENDS).slice(0, 60)) {
    const places = new Map<Idea, Place>();
    const spoken: Spoken = (idea) => {
      if (!places.has(idea)) places.set(idea, spokenOf(idea, segment));
      return places.get(idea);
    };
    for (const [sort, applies] of RULES) if (applies(spoken, segment)) meant.add(sort);
  }
  return meant;
}
