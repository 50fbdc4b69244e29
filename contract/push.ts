import * as z from "zod";
import { PUSH_TOPICS } from "@amigo/core/push/topics";
import { endpoint } from "./endpoint";
import { wrong } from "./wrong";

const Done = z.object({ done: z.literal(true) });
const Topics = z.array(z.enum(PUSH_TOPICS)).max(PUSH_TOPICS.length);
/** Octets in base64url without padding (RFC 4648, section 5). */
const octets = (length: number) =>
  z.base64url().refine((text) => Math.floor((text.replace(/=+$/, "").length * 3) / 4) === length, {
    message: wrong("input.thisIsntAPushKey"),
  });

/** One's own devices, and of what one is told on them. */
export const Push = z
  .object({
    /** The house's public key for push services (RFC 8292), which a browser needs to make a subscription. */
    key: z.string(),
    topics: Topics,
    devices: z.array(
      z.object({
        id: z.string(),
        browser: z.string(),
        since: z.string(),
        /** Whether its push service has not taken the last messages. */
        failing: z.boolean(),
      }),
    ),
  })
  .meta({ id: "Push" });
export type Push = z.output<typeof Push>;

export const getPush = endpoint({
  method: "get",
  path: "/api/account/push",
  summary: "On which of one's own devices one is told of news, and of what",
  who: "manage own account",
  answer: Push,
});
export const putPushTopics = endpoint({
  method: "put",
  path: "/api/account/push/topics",
  summary: "Choose of what one is told on one's own devices",
  who: "manage own account",
  body: z.object({ topics: Topics }),
  answer: Done,
});
export const postPushDevice = endpoint({
  method: "post",
  path: "/api/account/push/devices",
  summary: "Be told of news on this device: its subscription at a push service (Push API)",
  who: "manage own account",
  body: z.object({
    endpoint: z.url({ protocol: /^https?$/ }).max(2000),
    keys: z.object({ p256dh: octets(65), auth: octets(16) }),
  }),
  answer: z.object({ id: z.string() }),
});
export const deletePushDevice = endpoint({
  method: "delete",
  path: "/api/account/push/devices/{id}",
  summary: "Be told no more on a device",
  who: "manage own account",
  params: z.object({ id: z.uuid() }),
  answer: Done,
});
export const postPushTest = endpoint({
  method: "post",
  path: "/api/account/push/devices/{id}/test",
  summary: "Send a notice to a device to see that it arrives",
  who: "manage own account",
  params: z.object({ id: z.uuid() }),
  answer: Done,
});
