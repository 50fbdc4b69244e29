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
  })
  .meta({ id: "MailSettings" });
export type MailSettings = z.output<typeof MailSettings>;

/** The mail side of the house: its queue, its settings, and the DNS records to add. */
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

export const getMailHouse = endpoint({
  method: "get",
  path: "/api/mail",
  summary: "The queue, the mail settings, and the DNS records with what was found of them",
  who: "see the house",
  answer: MailHouse,
});
export const putMailSettings = endpoint({
  method: "put",
  path: "/api/mail/settings",
  summary: "Change digests, keeping, holding and taking back",
  who: "change the house",
  body: MailSettings.extend({ version: z.string().max(64) }),
  answer: z.object({ version: z.string() }),
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
