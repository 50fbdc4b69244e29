import type {
  deletePushDevice,
  getPush,
  postPushDevice,
  postPushTest,
  putPushTopics,
} from "@amigo/contract/push";
import { PUSH_TOPICS } from "@amigo/core/push/topics";
import type { Context } from "../context";
import { orRefuse, refuse, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { refused, type Refused } from "../refused";
import { isAmong } from "../sandbox/fetchWeb";
import { t } from "../texts/t";
import { openPushKey } from "./pushKey";
import {
  findDevice,
  findTopics,
  listDevices,
  removeDevice,
  removeGone,
  storeDevice,
  storeTopics,
} from "./queries";
import { sendPush } from "./sendPush";
import { sending } from "./tellDevices";

/** The most devices that one account has. */
const MOST_DEVICES = 10;
/** How much of how a browser calls itself is kept, in signs. */
const LONGEST_BROWSER = 300;

/** Returns on which of one's own devices one is told of news, and of what. */
export async function showPush(
  context: Context,
  { caller }: Request<typeof getPush>,
): Promise<Answer<typeof getPush>> {
  const { db } = context;
  const devices = await listDevices(db, caller.id);
  return {
    key: (await openPushKey(context)).publicKey,
    topics: (await findTopics(db, caller.id)) ?? [],
    devices: devices.map(({ id, browser, createdAt, failures }) => ({
      id,
      browser,
      since: createdAt.toISOString(),
      failing: failures > 0,
    })),
  };
}

/** Stores of what one is told. */
export async function chooseTopics(
  { db }: Context,
  { body, caller }: Request<typeof putPushTopics>,
): Promise<Answer<typeof putPushTopics>> {
  await db.transaction((tx) => storeTopics(tx, caller, body.topics));
  return { done: true as const };
}

/** Stores a device of one's own. With the first one is told of everything, until one chooses. */
export async function addDevice(
  { db, settings }: Context,
  { body: { endpoint, keys }, caller, http }: Request<typeof postPushDevice>,
): Promise<Answer<typeof postPushDevice>> {
  const url = new URL(endpoint);
  if (url.protocol !== "https:" && !isAmong(url, settings.allowedHosts))
    throw new Refusal(422, "push/endpoint", t("push.onlyHttps"), "endpoint");
  return db.transaction(async (tx) => {
    const devices = await listDevices(tx, caller.id);
    if (devices.length >= MOST_DEVICES && !devices.some((one) => one.endpoint === endpoint))
      throw new Refusal(409, "push/many", t("push.tooManyDevices", { most: MOST_DEVICES }));
    if ((await findTopics(tx, caller.id)) === undefined) await storeTopics(tx, caller, PUSH_TOPICS);
    const browser = (http.req.header("user-agent") ?? "").slice(0, LONGEST_BROWSER);
    return { id: await storeDevice(tx, { accountId: caller.id, endpoint, ...keys, browser }) };
  });
}

/** Removes one of one's own devices. */
export async function dropDevice(
  { db }: Context,
  { params, caller }: Request<typeof deletePushDevice>,
): Promise<Answer<typeof deletePushDevice>> {
  refuse((await removeDevice(db, caller.id, params.id)) ? undefined : noSuchDevice());
  return { done: true as const };
}

/** Sends a notice to one of one's own devices, to see that it arrives. */
export async function tryDevice(
  context: Context,
  { params, caller }: Request<typeof postPushTest>,
): Promise<Answer<typeof postPushTest>> {
  const { db, settings } = context;
  const device = orRefuse((await findDevice(db, caller.id, params.id)) ?? noSuchDevice());
  const taken = await sendPush(
    device,
    {
      title: t("push.thisIsATest"),
      body: t("push.noticesArriveHere"),
      url: `${settings.url}/account`,
      tag: "test",
    },
    await sending(db, context, await openPushKey(context)),
  );
  if (taken === "gone") await removeGone(db, [device.id]);
  if (taken !== "taken")
    throw new Refusal(
      422,
      "push/not-taken",
      taken === "gone" ? t("push.deviceIsGone") : t("push.notTakenNow"),
    );
  return { done: true as const };
}

function noSuchDevice(): Refused {
  return refused(404, "not-found", t("push.noSuchDevice"));
}
