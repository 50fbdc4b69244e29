import * as z from "zod";
import { BOUNCE_SORTS } from "@amigo/core/mail/bounces/form";
import { endpoint } from "./endpoint";
import { RelayAway } from "./house";

export const MailSettings = z
  .object({
    undoSeconds: z.number().int().min(0).max(600),
    digestHour: z.number().int().min(0).max(23),
    /** 1 is Monday. */
    digestDay: z.number().int().min(1).max(7),
    heldDays: z.number().int().min(1).max(365),
    manyAddresses: z.number().int().min(2).max(100_000),
    softDays: z.number().int().min(1).max(60),
    /** Whether a mail in several languages has a part for each (RFC 8255), and isn't one text with all below each other. */
    languageParts: z.boolean(),
  })
  .meta({ id: "MailSettings" });
export type MailSettings = z.output<typeof MailSettings>;

const MailKey = z.object({
  /** What stands before `_domainkey` in the name of its record. */
  selector: z.string(),
  algorithm: z.enum(["rsa-sha256", "ed25519-sha256"]),
  state: z.enum(["waiting", "signing", "retired"]),
  since: z.string(),
  /** Whether the DNS has its record. */
  published: z.enum(["there", "missing", "other"]),
  /** Until when the record of a retired key must stay, as mail that it signed may still be on its way. */
  keepUntil: z.string().nullable(),
});
export type MailKey = z.output<typeof MailKey>;

/** The mail side of the house: its queue, its settings, the keys that sign, and the DNS records to add. */
export const MailHouse = z
  .object({
    settings: MailSettings,
    /** What the settings are now; who changes them says which they have seen. */
    version: z.string(),
    queue: z.object({
      pausedBy: z.string(),
      waiting: z.number().int(),
      deferred: z.number().int(),
      sentToday: z.number().int(),
      bouncedToday: z.number().int(),
      oldest: z.string().nullable(),
      /** Why nothing goes out, where the relay can't be reached. */
      relayAway: RelayAway.nullable(),
    }),
    keys: z.array(MailKey),
    records: z.array(
      z.object({
        name: z.string(),
        type: z.string(),
        value: z.string(),
        why: z.string(),
        state: z.enum(["there", "missing", "other"]),
        found: z.string(),
      }),
    ),
  })
  .meta({ id: "MailHouse" });
export type MailHouse = z.output<typeof MailHouse>;

const Trouble = z.object({
  address: z.string(),
  state: z.enum(["stopped", "shaky"]),
  sort: z.enum(BOUNCE_SORTS),
  words: z.string(),
  since: z.string(),
  lists: z.number().int(),
  people: z.array(z.object({ id: z.string(), name: z.string(), detail: z.string() })),
  /** Where in the sheets it stands. */
  where: z.string(),
  source: z.string().nullable(),
});
export type Trouble = z.output<typeof Trouble>;

/** Many addresses that failed at once, so that none of them was stopped. */
const Brake = z.object({
  id: z.string(),
  at: z.string(),
  scope: z.enum(["domain", "mail"]),
  /** The domain that they have in common, or the subject of the mail that was sent to them. */
  about: z.string(),
  words: z.string(),
  addresses: z.number().int(),
});

/** How many families can be reached, by class and over time, and which addresses do not work. */
export const Reach = z
  .object({
    students: z.number().int(),
    reached: z.number().int(),
    classes: z.array(
      z.object({
        name: z.string(),
        site: z.string(),
        students: z.number().int(),
        reached: z.number().int(),
        /** Students whom no guardian address that works reaches. */ missing: z.array(
          z.object({ id: z.string(), name: z.string(), why: z.string() }),
        ),
      }),
    ),
    weeks: z.array(
      z.object({ day: z.string(), students: z.number().int(), reached: z.number().int() }),
    ),
    troubles: z.array(Trouble),
    /** Addresses that failed together, on which nobody has decided yet; for those who may decide. */
    brakes: z.array(Brake),
  })
  .meta({ id: "Reach" });
export type Reach = z.output<typeof Reach>;

const Done = z.object({ done: z.literal(true) });

/** What receivers of our mail report by themselves, of the last days. */
export const MailReports = z
  .object({
    days: z.number().int(),
    proofs: z.array(
      z.object({
        /** The network address of the machine that sent the mail. */
        source: z.string(),
        kind: z.enum(["ours", "handed on", "unsigned", "unknown"]),
        mails: z.number().int(),
        /** Of those, how many were put among unwanted mail or refused. */
        refused: z.number().int(),
        reporters: z.array(z.string()),
        last: z.string(),
        advice: z.string(),
      }),
    ),
    sessions: z.object({
      encrypted: z.number().int(),
      problems: z.array(
        z.object({
          server: z.string(),
          problem: z.string(),
          sessions: z.number().int(),
          reporters: z.array(z.string()),
          last: z.string(),
          advice: z.string(),
        }),
      ),
    }),
  })
  .meta({ id: "MailReports" });
export type MailReports = z.output<typeof MailReports>;

export const getMailHouse = endpoint({
  method: "get",
  path: "/api/mail",
  summary: "The queue, the mail settings, and the DNS records with what was found of them",
  who: "see the house",
  answer: MailHouse,
});
export const getMailReports = endpoint({
  method: "get",
  path: "/api/mail/reports",
  summary: "What receivers of your mail report on signatures and encryption, with what to do",
  who: "see the house",
  answer: MailReports,
});
export const putMailSettings = endpoint({
  method: "put",
  path: "/api/mail/settings",
  summary: "Change digests, keeping, holding and taking back",
  who: "change the house",
  body: MailSettings.extend({ version: z.string().max(64) }),
  answer: z.object({ version: z.string() }),
});
const Selector = z.object({ selector: z.string().max(63) });

export const postMailKey = endpoint({
  method: "post",
  path: "/api/mail/keys",
  summary: "Make a key that can sign mail once the DNS has its record",
  who: "change the house",
  body: z.object({ algorithm: z.enum(["rsa-sha256", "ed25519-sha256"]) }),
  answer: Selector,
});
export const putMailKey = endpoint({
  method: "put",
  path: "/api/mail/keys/{selector}",
  summary: "Sign with a key from now on; or stop signing with an Ed25519 key",
  who: "change the house",
  params: Selector,
  body: z.object({ state: z.enum(["signing", "retired"]) }),
  answer: Done,
});
export const deleteMailKey = endpoint({
  method: "delete",
  path: "/api/mail/keys/{selector}",
  summary: "Remove a key that doesn't sign and that no mail on its way needs",
  who: "change the house",
  params: Selector,
  answer: Done,
});
export const postQueue = endpoint({
  method: "post",
  path: "/api/mail/queue",
  summary: "Pause or resume all sending",
  who: "change the house",
  body: z.object({ paused: z.boolean() }),
  answer: Done,
});
export const getReach = endpoint({
  method: "get",
  path: "/api/reach",
  summary: "Who can be reached, by class and over time, and which addresses fail",
  who: "see people",
  answer: Reach,
});
export const postBrake = endpoint({
  method: "post",
  path: "/api/reach/brakes/{id}",
  summary: "Decide on addresses that failed at once: resume mail to all of them, or stop it",
  who: "change the house",
  params: z.object({ id: z.uuid() }),
  body: z.object({ decision: z.enum(["resume", "stop"]) }),
  answer: z.object({ addresses: z.number().int() }),
});
export const postHeal = endpoint({
  method: "post",
  path: "/api/reach/heal",
  summary: "Let mail go to an address again",
  who: "decide on people",
  body: z.object({ address: z.string().trim().toLowerCase().max(254) }),
  answer: Done,
});
