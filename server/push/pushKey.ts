import webPush from "web-push";
import type { Queries } from "../db/connect";
import { seal, unseal } from "../twoStep/seal";
import { findPushKey, removePushKey, storePushKey } from "./queries";

const ABOUT = "push";

interface KeyNeeds {
  db: Queries;
  houseKey: string;
}

/** The pair of keys by which push services know this house: RFC 8292, section 2. */
export interface PushKey {
  /** In base64url, as browsers are given it. */
  publicKey: string;
  privateKey: string;
}

/**
 * Returns the house's key for push services, made at first need. Where the house's own key was replaced, the old one can't be opened any more:
 * another is made, and devices have to be added anew.
 */
export async function openPushKey({ db, houseKey }: KeyNeeds): Promise<PushKey> {
  const stored = (await findPushKey(db)) ?? (await makeKey({ db, houseKey }));
  const privateKey = unseal(houseKey, ABOUT, stored.sealed);
  if (privateKey !== undefined) return { publicKey: stored.publicKey, privateKey };
  await removePushKey(db);
  return openPushKey({ db, houseKey });
}

async function makeKey({ db, houseKey }: KeyNeeds) {
  const { publicKey, privateKey } = webPush.generateVAPIDKeys();
  const stored = await storePushKey(db, { publicKey, sealed: seal(houseKey, ABOUT, privateKey) });
  if (stored === undefined) throw new Error("the key for push services was not stored");
  return stored;
}
