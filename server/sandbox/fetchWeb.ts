import { lookup as resolveName } from "node:dns";
import { basename } from "node:path";
import ipaddr from "ipaddr.js";
import { Agent, request, type Dispatcher } from "undici";
import { FILE_LIMITS } from "@amigo/core/sheet/sheet";
import { refused, Refused } from "../refused";
import { t } from "../texts/t";

/** A file as it was fetched, or that it has not changed since the last look. */
export type Fetched =
  | {
      changed: true;
      name: string;
      bytes: Uint8Array;
      /** ISO instant, or empty. */ writtenAt: string;
      seen: Record<string, string>;
    }
  | { changed: false };

/** How long one web address may take in all, in milliseconds, and how many times it may point elsewhere. */
const TIME_LIMIT = 60_000;
const REDIRECTS = 3;

/** Refuses a place from which something was to be fetched. */
export const refusal = (type: string, sentence: string): Refused =>
  refused(422, `source/${type}`, sentence, "location");

/**
 * Fetches a file from a web address, asking for it only if it has changed (RFC 9110, section 13). Addresses
 * inside the own network are refused unless the settings allow the host; every place to which it is pointed
 * further is looked at in the same way.
 *
 * @param allowed hosts, as `host` or `host:port`, that may also be in the own network
 * @returns the file, or what is wrong with the address and what to do
 */
export async function fetchWeb(
  address: string,
  allowed: ReadonlySet<string>,
  seen: Record<string, string> = {},
): Promise<Fetched | Refused> {
  const first = addressOf(address);
  if (first instanceof Refused) return first;
  let at = first;
  const signal = AbortSignal.timeout(TIME_LIMIT);
  for (let turn = 0; turn <= REDIRECTS; turn++) {
    const agent = agentFor(at, allowed);
    if (agent instanceof Refused) return agent;
    try {
      const answer = await request(at, {
        dispatcher: agent,
        signal,
        headers: {
          "user-agent": "Amigo",
          accept:
            "text/csv, application/vnd.openxmlformats-officedocument.spreadsheetml.sheet, application/vnd.oasis.opendocument.spreadsheet, */*;q=0.5",
          ...(seen.etag === undefined ? {} : { "if-none-match": seen.etag }),
          ...(seen.modified === undefined ? {} : { "if-modified-since": seen.modified }),
        },
      });
      const moved = [301, 302, 303, 307, 308].includes(answer.statusCode)
        ? one(answer.headers.location)
        : undefined;
      if (moved !== undefined) {
        await answer.body.dump();
        const next = addressOf(new URL(moved, at).href);
        if (next instanceof Refused) return next;
        at = next;
        continue;
      }
      if (answer.statusCode === 304) return { changed: false };
      if (answer.statusCode !== 200)
        return refusal("web-status", statusSentence(at, answer.statusCode));
      const bytes = await bodyWithin(answer.body, FILE_LIMITS.bytes, at);
      if (bytes instanceof Refused) return bytes;
      const [etag, modified] = [one(answer.headers.etag), one(answer.headers["last-modified"])];
      const written =
        modified === undefined || Number.isNaN(Date.parse(modified))
          ? ""
          : new Date(modified).toISOString();
      return {
        changed: true,
        name: nameIn(at, one(answer.headers["content-disposition"])),
        bytes,
        writtenAt: written,
        seen: {
          ...(etag === undefined ? {} : { etag }),
          ...(modified === undefined ? {} : { modified }),
        },
      };
    } catch (failure) {
      return (
        causeOf(failure) ??
        refusal(
          "web-failed",
          t("sources.couldNotBeReachedCheck", {
            host: at.host,
            tookTooLong: signal.aborted,
            seconds: TIME_LIMIT / 1000,
          }),
        )
      );
    } finally {
      await agent.close().catch(() => undefined);
    }
  }
  return refusal(
    "web-redirects",
    t("sources.pointsFurtherMoreThanTimes", { address, most: REDIRECTS }),
  );
}

function addressOf(text: string): URL | Refused {
  if (!URL.canParse(text)) return refusal("web-address", t("sources.isNoWebAddressIt", { text }));
  const url = new URL(text);
  if (url.protocol !== "https:" && url.protocol !== "http:")
    return refusal("web-address", t("sources.isNoWebAddressOnly", { text }));
  if (url.username !== "" || url.password !== "")
    return refusal("web-address", t("sources.aNameAndPasswordDo"));
  return url;
}

const bareHost = (url: URL): string => url.hostname.replace(/^\[|\]$/g, "");

/** Whether a web address is at one of some hosts, which are named with their port or without. */
export function isAmong(url: URL, hosts: ReadonlySet<string>): boolean {
  return hosts.has(url.host.toLowerCase()) || hosts.has(bareHost(url).toLowerCase());
}

/** An agent that connects only to public addresses, whatever the name resolves to at the very moment. */
export function agentFor(url: URL, allowed: ReadonlySet<string>): Agent | Refused {
  const host = bareHost(url);
  const isAllowed = isAmong(url, allowed);
  if (!isAllowed && ipaddr.isValid(host) && !isPublic(host)) return privateAddress(url.host);
  return new Agent({
    connect: {
      timeout: 10_000,
      lookup: (name, options, answer) => {
        resolveName(name, { ...options, all: true }, (failure, addresses) => {
          if (failure !== null) {
            answer(failure, []);
            return;
          }
          const wrong = isAllowed ? undefined : addresses.find(({ address }) => !isPublic(address));
          if (wrong !== undefined)
            answer(
              Object.assign(new Error("private"), {
                refusal: privateAddress(url.host),
              }) as NodeJS.ErrnoException,
              [],
            );
          else answer(null, addresses);
        });
      },
    },
    headersTimeout: 20_000,
    bodyTimeout: 20_000,
  });
}

function isPublic(address: string): boolean {
  return ipaddr.process(address).range() === "unicast";
}

function privateAddress(host: string): Refused {
  return refusal("web-private", t("sources.isInsideThisAmigosOwn", { host }));
}

function causeOf(failure: unknown): Refused | undefined {
  if (typeof failure !== "object" || failure === null) return undefined;
  if ("refusal" in failure && failure.refusal instanceof Refused) return failure.refusal;
  return "cause" in failure ? causeOf(failure.cause) : undefined;
}

async function bodyWithin(
  body: Dispatcher.ResponseData["body"],
  limit: number,
  at: URL,
): Promise<Uint8Array | Refused> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of body as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > limit) return tooLarge(t("sources.whatSends", { host: at.host }));
    chunks.push(chunk);
  }
  return new Uint8Array(Buffer.concat(chunks));
}

function statusSentence(at: URL, status: number): string {
  if (status === 401 || status === 403)
    return t("sources.doesNotLetAmigoRead", { host: at.host, status });
  if (status === 404 || status === 410)
    return t("sources.thereIsNothingAtThis", { host: at.host, status });
  return t("sources.answeredInsteadOfASheet", { host: at.host, status });
}

/** Refuses what has more bytes than are read. */
export function tooLarge(what: string): Refused {
  return refused(
    422,
    "reading/too-large",
    t("sources.hasMoreThanMbShare", { what, bytes: FILE_LIMITS.bytes / 1024 / 1024 }),
    "location",
  );
}

function nameIn(at: URL, disposition: string | undefined): string {
  const named = /filename="?([^";]+)"?/i.exec(disposition ?? "")?.[1];
  return basename(named ?? decodeURIComponent(at.pathname)).slice(0, 200) || at.host;
}

function one(header: string | string[] | undefined): string | undefined {
  return Array.isArray(header) ? header[0] : header;
}
