import { createECDH, createPublicKey, randomBytes, verify, type ECDH } from "node:crypto";
import { createServer, type IncomingHttpHeaders } from "node:http";
import type { AddressInfo } from "node:net";
import { decrypt } from "http_ece";

/** A message as the push service was given it, and as its device reads it. */
export interface PushedMessage {
  path: string;
  headers: IncomingHttpHeaders;
  /** What only the device can read. */
  body: { title: string; body: string; url: string; tag: string };
  /** Who sends it, by its signed token; undefined where the signature is wrong (RFC 8292, section 2). */
  sender: { aud: string; sub: string; exp: number } | undefined;
  /** As it came. */
  octets: Buffer;
}

/** A push service and the devices at it, for tests: RFC 8030. */
export interface PushStandIn {
  host: string;
  messages: PushedMessage[];
  /** The status by which messages are answered; 201 takes them. */
  answer: number;
  /** Makes a device, and returns its subscription as a browser would give it. */
  device(): { endpoint: string; keys: { p256dh: string; auth: string } };
  close(): Promise<void>;
}

export async function startPushStandIn(): Promise<PushStandIn> {
  const devices = new Map<string, { keys: ECDH; auth: Buffer }>();
  const server = createServer((request, response) => {
    const chunks: Buffer[] = [];
    request.on("data", (chunk: Buffer) => chunks.push(chunk));
    request.on("end", () => {
      const path = request.url ?? "";
      const device = devices.get(path);
      const octets = Buffer.concat(chunks);
      if (device !== undefined && standIn.answer === 201) {
        const text = decrypt(octets, {
          version: "aes128gcm",
          privateKey: device.keys,
          authSecret: device.auth.toString("base64url"),
        }).toString("utf8");
        standIn.messages.push({
          path,
          octets,
          headers: request.headers,
          body: JSON.parse(text) as PushedMessage["body"],
          sender: senderIn(request.headers.authorization ?? ""),
        });
      }
      response.writeHead(device === undefined ? 404 : standIn.answer).end();
    });
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const host = `127.0.0.1:${(server.address() as AddressInfo).port}`;
  const standIn: PushStandIn = {
    host,
    messages: [],
    answer: 201,
    device: () => {
      const keys = createECDH("prime256v1");
      keys.generateKeys();
      const auth = randomBytes(16);
      const path = `/push/${randomBytes(12).toString("hex")}`;
      devices.set(path, { keys, auth });
      return {
        endpoint: `http://${host}${path}`,
        keys: {
          p256dh: keys.getPublicKey().toString("base64url"),
          auth: auth.toString("base64url"),
        },
      };
    },
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
  return standIn;
}

/** Who a message is from, by the token in its Authorization field (RFC 8292, section 3); undefined where it isn't signed by the key beside it. */
function senderIn(authorization: string): PushedMessage["sender"] {
  const [, token = "", key = ""] = /^vapid t=([^,]+), ?k=(.+)$/.exec(authorization) ?? [];
  const [head = "", body = "", signature = ""] = token.split(".");
  const point = Buffer.from(key, "base64url");
  const publicKey = createPublicKey({
    format: "jwk",
    key: {
      kty: "EC",
      crv: "P-256",
      x: point.subarray(1, 33).toString("base64url"),
      y: point.subarray(33).toString("base64url"),
    },
  });
  const isSigned = verify(
    "sha256",
    Buffer.from(`${head}.${body}`),
    { key: publicKey, dsaEncoding: "ieee-p1363" },
    Buffer.from(signature, "base64url"),
  );
  return isSigned
    ? (JSON.parse(Buffer.from(body, "base64url").toString()) as PushedMessage["sender"])
    : undefined;
}
