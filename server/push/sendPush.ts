import { request } from "undici";
import webPush from "web-push";
import { agentFor } from "../sandbox/fetchWeb";
import { Refused } from "../refused";
import type { PushKey } from "./pushKey";

/** For how long a push service keeps a message for a device that is off, in seconds (RFC 8030, section 5.2). */
const KEPT_FOR = 24 * 3600;
/** How long a push service may take, in milliseconds. */
const TIME_LIMIT = 10_000;

/** What a device shows. */
export interface PushMessage {
  title: string;
  body: string;
  /** The page that opens by it. */
  url: string;
  /** Of two with one tag the device shows the newer alone. */
  tag: string;
}

/** Whether a push service took a message, will never take one for this device, or may later on. */
export type Taken = "taken" | "gone" | "not now";

/**
 * Sends a message to a device by its push service, encrypted so that only the device can read it (RFC 8030, 8291, 8292). Services
 * inside the own network are refused unless the settings allow the host.
 *
 * @param sender where the push service finds who runs this house, such as `mailto:…` (RFC 8292, section 2.1)
 */
export async function sendPush(
  device: { endpoint: string; p256dh: string; auth: string },
  message: PushMessage,
  { key, sender, allowed }: { key: PushKey; sender: string; allowed: ReadonlySet<string> },
): Promise<Taken> {
  const url = new URL(device.endpoint);
  const agent = agentFor(url, allowed);
  if (agent instanceof Refused) return "gone";
  const details = encrypted(device, message, { key, sender });
  if (details === undefined) return "gone";
  const { method, headers, body } = details;
  try {
    const answer = await request(url, {
      dispatcher: agent,
      method,
      headers: Object.fromEntries(
        Object.entries(headers).map(([name, value]) => [name, String(value)]),
      ),
      body,
      signal: AbortSignal.timeout(TIME_LIMIT),
    });
    await answer.body.dump();
    if (answer.statusCode >= 200 && answer.statusCode < 300) return "taken";
    // Gone for good: RFC 8030, section 7.3; a key that doesn't fit any more: RFC 8292, section 4.2.
    return [400, 401, 403, 404, 410].includes(answer.statusCode) ? "gone" : "not now";
  } catch {
    return "not now";
  } finally {
    await agent.close().catch(() => undefined);
  }
}

/** Returns the request that brings a message to a device; undefined where its keys are none. */
function encrypted(
  { endpoint, p256dh, auth }: { endpoint: string; p256dh: string; auth: string },
  message: PushMessage,
  { key, sender }: { key: PushKey; sender: string },
): webPush.RequestDetails | undefined {
  try {
    return webPush.generateRequestDetails(
      { endpoint, keys: { p256dh, auth } },
      JSON.stringify(message),
      {
        TTL: KEPT_FOR,
        topic: message.tag.replace(/[^A-Za-z0-9_-]/g, "-").slice(0, 32),
        vapidDetails: { subject: sender, ...key },
      },
    );
  } catch {
    return undefined;
  }
}
