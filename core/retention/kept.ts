import { message, type CoreTextId, type Message } from "@amigo/language/message";

/** One kind of thing that a school keeps for a time. All times are days. */
interface Kept {
  /** What people call it. */
  name: Message;
  /** A number of it in words. */
  counted: CoreTextId;
  /** What is removed when its time is over, and what stays. */
  what: Message;
  /** What speaks for how long, and what schools usually choose. */
  why: Message;
  /** How long it is kept unless the school says otherwise; null for good. */
  proposed: number | null;
  /** How long it is kept at least, because something needs it that long. */
  least: number;
}

/** Everything that has a time of its own, in the order of the page. */
export const KEPT = {
  posts: {
    name: message("retention.postsInTheArchive"),
    counted: "retention.posts",
    what: message("retention.theTextAndAttachmentsOf"),
    why: message("retention.longEnoughForFamiliesTo"),
    proposed: 730,
    least: 1,
  },
  deliveries: {
    name: message("retention.whoGotWhichPost"),
    counted: "retention.copies",
    what: message("retention.theAddressesInDeliveryReports"),
    why: message("retention.neededToAnswerINever"),
    proposed: 400,
    least: 366,
  },
  imports: {
    name: message("retention.olderImports"),
    counted: "retention.imports",
    what: message("retention.theFileAndItsRows"),
    why: message("retention.theyShowWhySomethingWas"),
    proposed: 400,
    least: 30,
  },
  answers: {
    name: message("retention.formAnswersThatNoLonger"),
    counted: "retention.answers",
    what: message("retention.answersThatWereDeclinedReplaced"),
    why: message("retention.proofOfWhatAFamily"),
    proposed: 1095,
    least: 30,
  },
  additions: {
    name: message("retention.additionsThatAreDoneWith"),
    counted: "retention.rows",
    what: message("retention.rowsThatWereRemovedDeclined"),
    why: message("retention.theyShowWhoAddedWhom"),
    proposed: 400,
    least: 30,
  },
  dates: {
    name: message("retention.whoCameToPastDates"),
    counted: "retention.dates",
    what: message("retention.theInvitedAndTheirAnswers"),
    why: message("retention.theyShowWhoCame"),
    proposed: 400,
    least: 30,
  },
  openings: {
    name: message("retention.whoOpenedWhat"),
    counted: "retention.things",
    what: message("retention.whoOpenedAFileOrLink"),
    why: message("retention.enoughToSeeWhetherAHandout"),
    proposed: 400,
    least: 1,
  },
  seasons: {
    name: message("retention.rostersOfPastSeasons"),
    counted: "retention.seasons",
    what: message("retention.namesAddressesClassesAndChanges"),
    why: message("retention.dataProtectionLawAsksYou"),
    proposed: 730,
    least: 90,
  },
  journal: {
    name: message("retention.journal"),
    counted: "retention.entries",
    what: message("retention.entriesOfWhoDidWhat"),
    why: message("retention.neededToClearUpMistakes"),
    proposed: 1095,
    least: 90,
  },
} as const satisfies Record<string, Kept>;

export type KeptKind = keyof typeof KEPT;

export const KEPT_KINDS = Object.keys(KEPT) as [KeptKind, ...KeptKind[]];

/** A school's own times, in days; null for good, and what is missing as proposed. */
export type KeepTimes = Partial<Record<KeptKind, number | null>>;

/** How long a school keeps everything. */
export function keepTimes(chosen: KeepTimes): Record<KeptKind, number | null> {
  return Object.fromEntries(
    KEPT_KINDS.map((kind) => [
      kind,
      chosen[kind] === undefined ? KEPT[kind].proposed : chosen[kind],
    ]),
  ) as Record<KeptKind, number | null>;
}

/** Returns a count of one kind in words, such as `3 imports`. */
export function countKept(kind: KeptKind, count: number): Message {
  return message(KEPT[kind].counted, { count });
}
