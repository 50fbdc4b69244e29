import { createHash, createPrivateKey, createPublicKey, generateKeyPair, sign } from "node:crypto";
import { promisify } from "node:util";
import type { Queries } from "../db/connect";
import { seal, unseal } from "../twoStep/seal";
import { addMailKey, listMailKeys, type MailKeyRow } from "./mailKeyQueries";

/** The name of the first key in the DNS: `amigo._domainkey` below the list domain. */
export const FIRST_SELECTOR = "amigo";

const HANDLES = 8;
const generate = promisify(generateKeyPair);
const signAsync = promisify(sign);

export type Algorithm = MailKeyRow["algorithm"];

/** What signs mail with one key. */
export interface Signer {
  selector: string;
  algorithm: Algorithm;
  /** The private half as PEM, for what wants it so. */
  pem: string;
  /** Signs what DKIM covers of a header; the answer is in base64. */
  sign(data: Buffer): Promise<string>;
}

/** The keys that sign mail now. Each process has them in memory and reads them again when somebody has changed them. */
export class MailKeys {
  /** By whom mail is signed now: one key or, with an Ed25519 key beside it, two. Another array after each change. */
  signers: readonly Signer[] = [];
  /** What they were made of. */
  private known = "";

  constructor(
    private readonly db: Queries,
    private readonly houseKey: string,
  ) {}

  /**
   * Reads the keys, and makes the house's own the first where there are none.
   *
   * @throws Error with a sentence where a key that signs can't be opened with the house's
   */
  async load(): Promise<void> {
    let rows = await listMailKeys(this.db);
    if (rows.length === 0) {
      await addMailKey(this.db, {
        ...{ selector: FIRST_SELECTOR, algorithm: "rsa-sha256", state: "signing" },
        ...{ sealed: sealed(this.houseKey, FIRST_SELECTOR, this.houseKey) },
        record: recordOf(this.houseKey, "rsa-sha256"),
      });
      rows = await listMailKeys(this.db);
    }
    const signing = rows.filter(({ state }) => state === "signing");
    const known = JSON.stringify(signing.map(({ sealed: closed }) => closed));
    if (known === this.known) return;
    this.signers = signing.map((row) => openKey(row, this.houseKey));
    this.known = known;
  }

  /** Makes a key, sealed for the database. */
  async make(
    selector: string,
    algorithm: Algorithm,
  ): Promise<Omit<MailKeyRow, "madeAt" | "since">> {
    const { privateKey } =
      algorithm === "rsa-sha256"
        ? await generate("rsa", { modulusLength: 2048 })
        : await generate("ed25519", {});
    const pem = privateKey.export({ type: "pkcs8", format: "pem" }).toString();
    return {
      ...{ selector, algorithm, state: "waiting" },
      ...{ sealed: sealed(this.houseKey, selector, pem), record: recordOf(pem, algorithm) },
    };
  }
}

const about = (selector: string): string => `mail key ${selector}`;

function sealed(houseKey: string, selector: string, pem: string): string {
  return seal(houseKey, about(selector), pem);
}

function openKey({ selector, algorithm, sealed: closed }: MailKeyRow, houseKey: string): Signer {
  const pem = unseal(houseKey, about(selector), closed);
  if (pem === undefined)
    throw new Error(
      `The key ${selector}, which signs mail, can't be opened with this house's key. Put the house's key back (dkim.pem, or as AMIGO_DKIM_KEY says).`,
    );
  return signerOf(selector, algorithm, pem);
}

/** Returns what signs with a private key, given as PEM. */
export function signerOf(selector: string, algorithm: Algorithm, pem: string): Signer {
  // Signing holds a lock on its handle, so there are several that are used in turn.
  const handles = Array.from({ length: HANDLES }, () => createPrivateKey(pem));
  let turn = 0;
  return {
    selector,
    algorithm,
    pem,
    sign: async (data) => {
      const handle = handles[turn++ % HANDLES] ?? createPrivateKey(pem);
      const signature =
        algorithm === "rsa-sha256"
          ? await signAsync("sha256", data, handle)
          : // What is signed is the hash, by Ed25519 as it is (RFC 8463, section 3).
            await signAsync(null, createHash("sha256").update(data).digest(), handle);
      return signature.toString("base64");
    },
  };
}

/** Returns the public half as its DNS record has it (RFC 6376, section 3.6.1; RFC 8463, section 4). */
export function recordOf(pem: string, algorithm: Algorithm): string {
  const open = createPublicKey(pem);
  if (algorithm === "rsa-sha256")
    return `v=DKIM1; k=rsa; p=${open.export({ type: "spki", format: "der" }).toString("base64")}`;
  const { x = "" } = open.export({ format: "jwk" });
  return `v=DKIM1; k=ed25519; p=${Buffer.from(x, "base64url").toString("base64")}`;
}
