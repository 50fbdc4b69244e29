import { isAscii } from "node:buffer";
import { isInside } from "@amigo/core/address/isInside";
import { fieldValue } from "@amigo/core/mail/splitMessage";
import type { Context } from "../context";
import type { MergeParts } from "../db/schema/posts";
import { CopyTexts } from "./copyTexts";
import { leaveToken } from "../posting/leaveToken";
import { openMold } from "../posting/noteSheet";
import type { Signer } from "./mailKeys";
import { sheetSigner } from "./signSheet";
import { findCopyList, findCopyPost, findDomains, findMessages } from "./copyQueries";
import {
  makeCopy,
  openMessage,
  prepare,
  preparePersonal,
  signNote,
  type CopyList,
  type CopyPost,
  type Prepared,
  type StoredMessage,
} from "./prepareCopy";
import { repairMail } from "./repairMail";
import type { Claimed } from "./queueQueries";

/** How many octets of messages are kept in memory between copies. */
const REMEMBERED = 64 * 1024 * 1024;
/** How many messages are kept in memory between copies. */
const MOST_MESSAGES = 500;
/** For how long what the database said about a list, a post or the school is used again, in milliseconds. */
const FRESH = 2000;

/** A copy as it goes to the relay, and its return path. */
export interface MadeCopy {
  raw: Buffer | Awaited<ReturnType<typeof makeCopy>>;
  returnPath: string;
  /** Whether it has octets beyond ASCII, which the relay is told of (RFC 6152). */
  is8Bit: boolean;
}

type OpenedMessage = StoredMessage & {
  merge: MergeParts | null;
  /** Writes the copy for one recipient of a mail of Amigo's own to many. */
  sign: ReturnType<typeof sheetSigner> | undefined;
};
type FoundMessage = NonNullable<ReturnType<Awaited<ReturnType<typeof findMessages>>["get"]>>;
type ListOfCopy = Omit<CopyList, "domain">;

/** Makes the copies of posts. What copies of the same post share is fetched and prepared once. */
export class CopyMaker {
  private readonly messages = new Map<string, Promise<OpenedMessage | undefined>>();
  private remembered = 0;
  private readonly prepared = new Map<string, Promise<Prepared>>();
  /** What the copy before this one was made of. */
  private last:
    | {
        stored: StoredMessage;
        list: ListOfCopy;
        post: CopyPost;
        domain: string;
        signers: readonly Signer[];
        made: Promise<Prepared>;
      }
    | undefined;
  /** What the last copy of a mail to people was made of. */
  private personal: { key: string; made: Prepared } | undefined;
  private readonly answers = new Map<string, { at: number; value: Promise<unknown> }>();

  private readonly texts: CopyTexts;

  constructor(private readonly context: Context) {
    this.texts = new CopyTexts(context.db);
  }

  /** Returns the copy that one address gets; nothing if its message was removed meanwhile. */
  async make(copy: Claimed): Promise<MadeCopy | undefined> {
    const { houseKey, mailKeys, settings } = this.context;
    const stored = await this.messageOf(copy.messageId);
    if (stored === undefined) return undefined;
    const [list, post, { listDomain: domain, insideDomains, name }] = await Promise.all([
      this.listOf(copy.listId),
      this.postOf(copy.postId),
      this.domains(),
    ]);
    if (stored.sign !== undefined) {
      // Whoever was removed meanwhile has no secret any more.
      const token = copy.fields?.token;
      if (token === undefined) return undefined;
      // The same each time that it is tried.
      const messageId = `<${copy.messageId}.${copy.id}@${domain}>`;
      const { address } = copy;
      const raw = await stored.sign({ address, token, messageId }, domain, new Date());
      return { raw, returnPath: ownReturnPath(copy, domain), is8Bit: false };
    }
    const filled = await this.texts.filledFor(stored, copy, () => this.domains());
    /** Whether other recipients get the very same. */
    const isShared = stored.merge === null || copy.fields === null;
    if (post === undefined)
      return {
        raw: await signNote(filled.raw, domain, mailKeys.signers, new Date()),
        returnPath: isAnswer(filled) ? "" : ownReturnPath(copy, domain),
        is8Bit: !isAscii(filled.raw),
      };
    if (list === undefined) {
      const { signers } = mailKeys;
      const alike = () => preparePersonal(filled, post, { name, domain }, signers, new Date());
      const made = isShared ? this.personalFor(filled, post, name, alike) : alike();
      return {
        raw: await makeCopy(made, { token: "", inside: true }),
        returnPath: ownReturnPath(copy, domain),
        is8Bit: made.is8Bit,
      };
    }
    const prepared = isShared
      ? await this.preparedFor(filled, list, post, domain)
      : await prepare(
          filled,
          { ...list, domain },
          post,
          mailKeys.signers,
          settings.url,
          new Date(),
        );
    return {
      raw: await makeCopy(prepared, {
        token: leaveToken(houseKey, copy.id),
        inside: isInside(copy.address, insideDomains),
      }),
      returnPath: `${list.name}+b.${copy.token}@${domain}`,
      is8Bit: prepared.is8Bit,
    };
  }

  /** The copies of one mail to people are the same, so they are signed once. */
  private personalFor(
    stored: StoredMessage,
    post: CopyPost,
    house: string,
    make: () => Prepared,
  ): Prepared {
    const key = JSON.stringify([stored.id, post, house, this.selectors()]);
    const known = this.personal?.key === key ? this.personal.made : undefined;
    const made = known ?? make();
    this.personal = { key, made };
    return made;
  }

  private preparedFor(
    stored: StoredMessage,
    list: ListOfCopy,
    post: CopyPost,
    domain: string,
  ): Promise<Prepared> {
    // Copies of one post follow each other, so what was prepared for the copy before mostly fits this one, too.
    const { last } = this;
    const { signers } = this.context.mailKeys;
    if (
      last?.stored === stored &&
      last.signers === signers &&
      last.list === list &&
      last.post === post &&
      last.domain === domain
    )
      return last.made;
    // The key holds all that header and footer are made of: when a rule changes, the remaining copies follow it.
    const key = JSON.stringify([stored.id, list, post, domain, this.selectors()]);
    const { settings } = this.context;
    const made =
      this.prepared.get(key) ??
      prepare(stored, { ...list, domain }, post, signers, settings.url, new Date());
    this.prepared.set(key, made);
    this.last = { stored, list, post, domain, signers, made };
    made.catch(() => {
      this.prepared.delete(key);
      this.last = undefined;
    });
    return made;
  }

  /** By which keys copies are signed now. */
  private selectors(): string[] {
    return this.context.mailKeys.signers.map(({ selector }) => selector);
  }

  /** Fetches the messages of copies that were claimed together, so that mails of Amigo's own don't ask for each by itself. */
  fetch(copies: readonly Claimed[]): void {
    const ids = new Set(copies.map(({ messageId }) => messageId));
    this.fetchMessages([...ids].filter((id) => !this.messages.has(id)));
  }

  /** Returns a message with its parts, kept in memory between copies as long as there is room. */
  private async messageOf(id: string): Promise<OpenedMessage | undefined> {
    if (!this.messages.has(id)) this.fetchMessages([id]);
    return this.messages.get(id);
  }

  private fetchMessages(ids: readonly string[]): void {
    if (ids.length === 0) return;
    if (this.remembered > REMEMBERED || this.messages.size + ids.length > MOST_MESSAGES) {
      this.messages.clear();
      this.prepared.clear();
      this.remembered = 0;
    }
    const fetched = findMessages(this.context.db, ids);
    for (const id of ids) {
      const opened = fetched.then((rows) => this.opened(rows.get(id)));
      this.messages.set(id, opened);
      opened.catch(() => this.messages.delete(id));
    }
  }

  private opened(row: FoundMessage | undefined): OpenedMessage | undefined {
    if (row === undefined || row.raw.length === 0) return undefined;
    this.remembered += row.raw.length;
    return {
      ...openMessage({
        id: row.id,
        raw: repairMail(row.raw, row.at, row.messageId),
        arc: row.arc ?? null,
      }),
      merge: row.merge ?? null,
      sign:
        row.mold === null
          ? undefined
          : sheetSigner(openMold(row.mold), () => this.context.mailKeys.signers),
    };
  }

  /** Asks the database once in two seconds for what many copies need, so that changes hold for the copies that are left. */
  private fresh<Value>(key: string, ask: () => Promise<Value>): Promise<Value> {
    const known = this.answers.get(key);
    if (known !== undefined && Date.now() - known.at < FRESH) return known.value as Promise<Value>;
    if (this.answers.size > 1000) this.answers.clear();
    const value = ask();
    this.answers.set(key, { at: Date.now(), value });
    value.catch(() => this.answers.delete(key));
    return value;
  }

  private async listOf(id: string | null): Promise<ListOfCopy | undefined> {
    if (id === null) return undefined;
    return this.fresh(`list ${id}`, () => findCopyList(this.context.db, id));
  }

  private async postOf(id: string | null): Promise<CopyPost | undefined> {
    if (id === null) return undefined;
    return this.fresh(`post ${id}`, () => findCopyPost(this.context.db, id));
  }

  private domains(): Promise<{
    listDomain: string;
    insideDomains: readonly string[];
    name: string;
    languageParts: boolean;
  }> {
    return this.fresh("domains", () => findDomains(this.context.db));
  }
}

/** Where a mail of Amigo's own, a digest or a mail to somebody alone comes back to: an address of this copy (VERP), that no list has. */
function ownReturnPath({ token }: Claimed, domain: string): string {
  return `mail+b.${token}@${domain}`;
}

/** Whether a note answers a mail: it has no return path then, so that no two programs answer each other (RFC 3834, section 3.3). */
function isAnswer({ split }: StoredMessage): boolean {
  return /^auto-replied/i.test(fieldValue(split, "auto-submitted") ?? "");
}
