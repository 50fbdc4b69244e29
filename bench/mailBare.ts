import { generateKeyPairSync, sign } from "node:crypto";
import { promisify } from "node:util";
import nodemailer from "nodemailer";

/** The bare SMTP client: the same library, over as many connections, with messages that are ready made; told to sign, it makes one RSA signature for each, as every copy of a list needs. */
const [port = "", many = "", connections = "", octets = "", signs = ""] = process.argv.slice(2);
const { privateKey } = generateKeyPairSync("rsa", { modulusLength: 2048 });
const signature = promisify(sign);
const transport = nodemailer.createTransport({
  host: "127.0.0.1",
  port: Number(port),
  ignoreTLS: true,
  pool: true,
  maxConnections: Number(connections),
  maxMessages: 5000,
});
const raw = Buffer.from(
  `From: a@lists.copperwheel.example\r\nTo: b@oakmail.example\r\nSubject: x\r\nMessage-ID: <x@y>\r\n\r\n${"x".repeat(76)}\r\n`.padEnd(
    Number(octets),
    "Dear families, the loft is closed.\r\n",
  ),
);
let next = 0;
const sender = async (): Promise<void> => {
  while (next < Number(many)) {
    const index = next++;
    if (signs !== "") await signature("sha256", raw.subarray(0, 900), privateKey);
    await transport.sendMail({
      envelope: { from: "a@lists.copperwheel.example", to: [`member${index}@oakmail.example`] },
      raw,
    });
  }
};
await Promise.all(Array.from({ length: Number(connections) }, sender));
transport.close();
process.send?.({ done: true });
process.disconnect();
