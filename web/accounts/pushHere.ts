/** What this browser can do about notices, and what it has done. */
export type PushHere =
  | { can: false; why: "unknown" | "insecure" | "blocked" }
  | { can: true; endpoint: string | undefined };

/** The program that shows notices while no page of Amigo is open. */
const WORKER = "/notices.js";

/** Returns whether this browser can show notices, and its subscription where it has one. */
export async function lookHere(): Promise<PushHere> {
  if (!window.isSecureContext) return { can: false, why: "insecure" };
  if (
    !("serviceWorker" in navigator) ||
    !("PushManager" in window) ||
    typeof Notification === "undefined"
  )
    return { can: false, why: "unknown" };
  if (Notification.permission === "denied") return { can: false, why: "blocked" };
  const registration = await navigator.serviceWorker.getRegistration(WORKER);
  const subscription = await registration?.pushManager.getSubscription();
  return { can: true, endpoint: subscription?.endpoint };
}

/**
 * Asks whoever sits here for leave to show notices, and subscribes this browser.
 *
 * @param key the school's public key for push services, in base64url
 * @returns the subscription as the server takes it; undefined where they said no
 */
export async function subscribeHere(
  key: string,
): Promise<{ endpoint: string; keys: { p256dh: string; auth: string } } | undefined> {
  if ((await Notification.requestPermission()) !== "granted") return undefined;
  await navigator.serviceWorker.register(WORKER);
  const { pushManager } = await navigator.serviceWorker.ready;
  // One that was made with another key of this school can't be used any more.
  await (await pushManager.getSubscription())?.unsubscribe();
  const made = await pushManager.subscribe({ userVisibleOnly: true, applicationServerKey: key });
  const { endpoint = "", keys = {} } = made.toJSON();
  return { endpoint, keys: { p256dh: keys.p256dh ?? "", auth: keys.auth ?? "" } };
}

/** Takes this browser's subscription back. */
export async function unsubscribeHere(): Promise<void> {
  const registration = await navigator.serviceWorker.getRegistration(WORKER);
  await (await registration?.pushManager.getSubscription())?.unsubscribe();
}
