import type { SplitMessage } from "@amigo/core/mail/splitMessage";
import type { Proof } from "@amigo/core/posting/mailToJudge";
import type { MessageRead, MailRead } from "../sandbox/readMail";
import type { Context } from "../context";
import { type house } from "../db/schema/house";

/** How a mail came in over SMTP: the network address of whoever sent it, and what they called themselves. */
export interface Connection {
  ip: string;
  helo: string;
}

/** A mail as it came over SMTP. `account` is who signed in for it, if anybody did. */
export interface IncomingMail {
  raw: Buffer;
  returnPath: string;
  recipients: readonly string[];
  account: { id: string; name: string; email: string } | undefined;
  /** From where it came; undefined where nothing is known of it. */
  connection: Connection | undefined;
}

/** A mail that was stored, with everything that its recipients' rules ask about. */
export interface Taken {
  house: typeof house.$inferSelect;
  mail: IncomingMail;
  split: SplitMessage;
  messageId: string;
  messageRow: string;
  from: { name: string; address: string };
  /** What proves that it is its From line's, where it is for none but one of its recipients; a signature speaks only for whom it names. */
  proof: Proof;
  /** Whether its sender's own domain says that it is not theirs. Nobody is answered in such a name. */
  isForged: boolean;
  about: MessageRead;
  returned: MailRead["returned"];
  /** Where the pages are, for links. */
  url: string;
  /** What is to be done once the mail is stored, before it is acknowledged. */
  after: ((context: Pick<Context, "desk">) => Promise<void>)[];
}
