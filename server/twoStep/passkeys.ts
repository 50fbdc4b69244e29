import { isIP } from "node:net";
import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type AuthenticatorTransport,
  type RegistrationResponseJSON,
} from "@simplewebauthn/server";
import type { Settings } from "../settings";
import type { passkey } from "../db/schema/accounts";

type Passkey = typeof passkey.$inferSelect;
type At = Pick<Settings, "url">;

/** Whether browsers offer passkeys at the address of the pages: it has a name, and https unless it is this machine (Web Authentication Level 3, section 5). */
export function passkeysWork({ url }: At): boolean {
  const { protocol, hostname } = new URL(url);
  return (
    hostname === "localhost" ||
    (protocol === "https:" && isIP(hostname.replace(/[[\]]/g, "")) === 0)
  );
}

const nameOf = ({ url }: At): string => new URL(url).hostname;
const originOf = ({ url }: At): string => new URL(url).origin;

/** What a browser is asked for to make a passkey. Its challenge must be kept until the answer comes. */
export function optionsToMake(
  settings: At,
  house: string,
  account: { id: string; name: string; email: string },
  there: readonly Passkey[],
) {
  return generateRegistrationOptions({
    rpName: house,
    rpID: nameOf(settings),
    userID: new TextEncoder().encode(account.id),
    userName: account.email,
    userDisplayName: account.name,
    attestationType: "none",
    excludeCredentials: there.map(descriptor),
    authenticatorSelection: { residentKey: "preferred", userVerification: "preferred" },
  });
}

/** The passkey that a browser has made; undefined where its answer proves nothing, or was meant for another page or challenge. */
export async function madePasskey(
  settings: At,
  answer: unknown,
  challenge: string,
): Promise<Pick<Passkey, "credentialId" | "publicKey" | "counter" | "transports"> | undefined> {
  try {
    const { verified, registrationInfo } = await verifyRegistrationResponse({
      response: answer as RegistrationResponseJSON,
      expectedChallenge: challenge,
      expectedOrigin: originOf(settings),
      expectedRPID: nameOf(settings),
      requireUserVerification: false,
    });
    if (!verified || registrationInfo === undefined) return undefined;
    const { id, publicKey, counter, transports } = registrationInfo.credential;
    return {
      credentialId: id,
      publicKey: Buffer.from(publicKey).toString("base64url"),
      counter,
      transports: (transports ?? []).slice(0, 10),
    };
  } catch {
    return undefined;
  }
}

/**
 * What a browser is asked for to use a passkey.
 *
 * @param among the passkeys of whoever has done the first step; undefined where the passkey alone tells who it is, and has to
 *   make sure of that itself, by a finger, a face or a PIN
 */
export function optionsToUse(settings: At, among: readonly Passkey[] | undefined) {
  return generateAuthenticationOptions({
    rpID: nameOf(settings),
    userVerification: among === undefined ? "required" : "preferred",
    ...(among === undefined ? {} : { allowCredentials: among.map(descriptor) }),
  });
}

/** The counter of a passkey after a use that was proven; undefined where the answer proves nothing. */
export async function usedPasskey(
  settings: At,
  answer: unknown,
  challenge: string,
  passkey: Passkey,
  isAlone: boolean,
): Promise<number | undefined> {
  try {
    const { verified, authenticationInfo } = await verifyAuthenticationResponse({
      response: answer as AuthenticationResponseJSON,
      expectedChallenge: challenge,
      expectedOrigin: originOf(settings),
      expectedRPID: nameOf(settings),
      requireUserVerification: isAlone,
      credential: {
        id: passkey.credentialId,
        publicKey: new Uint8Array(Buffer.from(passkey.publicKey, "base64url")),
        counter: passkey.counter,
        transports: passkey.transports,
      },
    });
    return verified ? authenticationInfo.newCounter : undefined;
  } catch {
    return undefined;
  }
}

function descriptor({ credentialId, transports }: Passkey) {
  return { id: credentialId, transports: transports as AuthenticatorTransport[] };
}

/** Options as JSON has them, without what JavaScript alone knows. */
export function jsonOf(options: object): Record<string, never> {
  return JSON.parse(JSON.stringify(options)) as Record<string, never>;
}
