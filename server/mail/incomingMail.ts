import type { SplitMessage } from "@amigo/core/mail/splitMessage";
import type { Proof } from "@amigo/core/posting/mailToJudge";
import type { MessageRead, MailRead } from "../sandbox/readMail";
import type { Context } from "../context";
import type { MailResult } from "@amigo/core/mail/mailResults";
import { type house } from "../db/schema/house";

/** How a mail came in over SMTP: the network address of whoever sent it, and what they called themselves. */
export interface Connection {
  ip: string;
  /** Whether a mail server of our own took it first, and whether that said from where it came. */
  front: "none" | "says" | "silent";
  helo: string;
  /** The protocol, as a trace field names it (RFC 3848), and the cipher; empty for a connection in clear. */
  protocol: string;
  tls: string;
}

/** A mail as it came over SMTP. `account` is who signed in for it, if anybody did. */
export interface IncomingMail {
  /** By which it is found in the mail log. */
  id: string;
  raw: Buffer;
  returnPath: string;
  recipients: readonly string[];
  account: { id: string; name: string; email: string } | undefined;
  connection: Connection;
  /** Whether our own spam filter has marked it as unwanted. */
  isMarked: boolean;
}

/** What a mail was for one of the addresses that it came to, for the mail log. */
export interface MailPart {
  /** The address, without a secret in it. */
  recipient: string;
  listId: string | null;
  postId: string | null;
  result: MailResult;
  reasons: readonly string[];
}

/** A mail that was stored, with everything that its recipients' rules ask about. */
export interface Taken {
  house: typeof house.$inferSelect;
  mail: IncomingMail;
  split: SplitMessage;
  messageId: string;
  messageRow: string;
  /** Its sender, by the name under which they are shown. */
  from: { name: string; address: string };
  /** The name on it, as it came: for answers to whoever sent it. */
  writtenName: string;
  /** Why that name isn't shown; undefined where it is. */
  doubt: string | undefined;
  /** What proves that it is its From line's, where it is for none but one of its recipients; a signature speaks only for whom it names. */
  proof: Proof;
  /** The hashes of the signatures that prove it. */
  signatures: readonly string[];
  /** Whether the address in the envelope is its sender's, so that it may be answered. */
  isAnswerable: boolean;
  /** Whether its sender's own domain says that it is not theirs. Nobody is answered in such a name. */
  isForged: boolean;
  about: MessageRead;
  returned: MailRead["returned"];
  report: MailRead["report"];
  /** By which leave links are signed. */
  leaveKey: string;
  /** Where the pages are, for links. */
  url: string;
  /** What is to be done once the mail is stored, before it is acknowledged. */
  after: ((context: Pick<Context, "desk">) => Promise<void>)[];
}
