import { createHash, generateKeyPairSync, randomBytes, sign, type KeyObject } from "node:crypto";
import { isoCBOR } from "@simplewebauthn/server/helpers";

/** Flags of authenticator data (Web Authentication Level 3, section 6.1): present, verified, with a new key. */
const PRESENT = 0x01;
const VERIFIED = 0x04;
const NEW_KEY = 0x40;

interface Asked {
  challenge: string;
  /** Where the page is; of another site where somebody was lured there. */
  origin: string;
  rpId: string;
  /** Whether the finger, the face or the PIN was asked for. */
  verified?: boolean;
}

/** A passkey as a browser and its device make one, with a key of P-256 and without attestation. */
export class SoftPasskey {
  readonly id = randomBytes(16);
  private readonly key: KeyObject;
  private readonly cose: Uint8Array;
  private counter = 0;

  constructor() {
    const { privateKey, publicKey } = generateKeyPairSync("ec", { namedCurve: "P-256" });
    this.key = privateKey;
    const { x = "", y = "" } = publicKey.export({ format: "jwk" });
    // EC2, ES256, P-256, x and y (RFC 9053, sections 2.1 and 7.1).
    this.cose = isoCBOR.encode(
      new Map<number, number | Uint8Array>([
        [1, 2],
        [3, -7],
        [-1, 1],
        [-2, Buffer.from(x, "base64url")],
        [-3, Buffer.from(y, "base64url")],
      ]),
    );
  }

  /** The answer to options for making it. */
  make(asked: Asked): Record<string, unknown> {
    const length = Buffer.alloc(2);
    length.writeUInt16BE(this.id.length);
    const data = Buffer.concat([
      this.data(asked, NEW_KEY),
      Buffer.alloc(16),
      length,
      this.id,
      this.cose,
    ]);
    const attestation = isoCBOR.encode(
      new Map<string, string | Uint8Array | Map<string, string>>([
        ["fmt", "none"],
        ["attStmt", new Map<string, string>()],
        ["authData", new Uint8Array(data)],
      ]),
    );
    return this.answer({
      clientDataJSON: clientData("webauthn.create", asked).toString("base64url"),
      attestationObject: Buffer.from(attestation).toString("base64url"),
      transports: ["internal"],
    });
  }

  /** The answer to options for using it. */
  use(asked: Asked): Record<string, unknown> {
    this.counter += 1;
    const data = this.data(asked, 0);
    const client = clientData("webauthn.get", asked);
    const hash = createHash("sha256").update(client).digest();
    return this.answer({
      clientDataJSON: client.toString("base64url"),
      authenticatorData: data.toString("base64url"),
      signature: sign("sha256", Buffer.concat([data, hash]), this.key).toString("base64url"),
    });
  }

  private data({ rpId, verified = true }: Asked, more: number): Buffer {
    const head = Buffer.alloc(5);
    head.writeUInt8(PRESENT | (verified ? VERIFIED : 0) | more);
    head.writeUInt32BE(this.counter, 1);
    return Buffer.concat([createHash("sha256").update(rpId).digest(), head]);
  }

  private answer(response: Record<string, unknown>): Record<string, unknown> {
    const id = this.id.toString("base64url");
    return { id, rawId: id, type: "public-key", clientExtensionResults: {}, response };
  }
}

function clientData(type: string, { challenge, origin }: Asked): Buffer {
  return Buffer.from(JSON.stringify({ type, challenge, origin, crossOrigin: false }));
}
