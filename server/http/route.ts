import { goOnInStaffLanguage } from "../texts/inLanguage";
import { busy, isBusy } from "./busy";
import { isCoreText, say } from "@amigo/language/say";
import type { Context as HonoContext, Hono } from "hono";
import { stream } from "hono/streaming";
import { type z } from "zod";
import { may, type Action } from "@amigo/core/access/may";
import { NDJSON, type Endpoint, type LongAnswer } from "@amigo/contract/endpoint";
import type { Problem } from "@amigo/contract/problem";
import {
  callerMay,
  callerOfSession,
  callerOfToken,
  memberOfSession,
  type Caller,
} from "../callers/caller";
import type { Context } from "../context";
import { answerJson } from "./answerJson";
import { Refusal } from "./fault";
import type { Handler, Request } from "./handler";
import { areStorable, isUnstorable, unstorable } from "./storable";
import { readSecret } from "./cookies";
import { parseJson } from "./parseJson";
import { isWithinTries } from "./limitTries";
import { networkAddress } from "./networkAddress";
import { describeFailure } from "../describeFailure";
import { t } from "../texts/t";
import { speakTo } from "../texts/familyLanguage";

/** How often somebody who is not signed in may ask for something, from one network address. */
const PUBLIC_TRIES = 300;
const PUBLIC_MINUTES = 10;

const NOBODY: Caller = { id: "", name: "", email: "", role: "staff", siteId: null, by: "session" };

/** Puts an endpoint in place: asks who may, parses every part by the contract, answers JSON. */
export function route<E extends Endpoint>(
  app: Hono,
  context: Context,
  endpoint: E,
  handle: Handler<E>,
): void {
  const path = endpoint.path.replace(/\{(\w+)\}/g, ":$1");
  app.on(endpoint.method.toUpperCase(), path, async (http) => {
    const caller = await findCaller(http, context);
    const member = endpoint.who === "member" ? await needMember(http, context) : undefined;
    if (member === undefined) speakToCaller(caller);
    if (endpoint.who !== "anybody" && endpoint.who !== "member") allowed(caller, endpoint.who);
    if (endpoint.method !== "get" && caller?.by !== "token") refuseOtherSites(http);
    if (
      endpoint.method !== "get" &&
      endpoint.who === "anybody" &&
      caller === undefined &&
      !(await isWithinTries(
        context.db,
        `public ${networkAddress(http, context.settings)}`,
        PUBLIC_TRIES,
        PUBLIC_MINUTES,
      ))
    )
      throw new Refusal(429, "too-many", t("http.tooMuchWasAskedFor"));
    const controller = new AbortController();
    const request = {
      params: parse(endpoint.params, http.req.param(), "path"),
      query: parse(endpoint.query, http.req.query(), "query"),
      body:
        endpoint.body === undefined
          ? undefined
          : parse(
              endpoint.body,
              await readBody(http, endpoint.bodyType === "form" ? "form" : "json"),
              "body",
            ),
      caller: caller ?? NOBODY,
      member: member ?? "",
      http,
      long: { tell: () => undefined, signal: controller.signal },
    } as Request<E>;
    http.header("Cache-Control", "no-store");
    if (endpoint.long === true && http.req.header("Accept")?.includes(NDJSON) === true)
      return answerInLines(http, context, request, controller, handle);
    return answerJson(http, await handle(context, request));
  });
}

/** Goes on in the language in which a caller reads the interface. */
function speakToCaller(caller: Caller | undefined): void {
  if (caller !== undefined) goOnInStaffLanguage(caller.language ?? "");
}

/** Answers a long request line by line, as NDJSON: how far it is, then the answer or the problem. Hanging up stops it. */
function answerInLines<E extends Endpoint>(
  http: HonoContext,
  context: Context,
  request: Request<E>,
  controller: AbortController,
  handle: Handler<E>,
): Response {
  http.header("Content-Type", NDJSON);
  return stream(http, async (lines) => {
    lines.onAbort(() => controller.abort());
    const say = (line: z.input<typeof LongAnswer>): Promise<unknown> =>
      lines.write(`${JSON.stringify(line)}\n`);
    try {
      const answer = await handle(context, {
        ...request,
        long: {
          signal: controller.signal,
          tell: (step, share) => void say({ progress: { step, share } }),
        },
      });
      await say({ answer });
    } catch (failure) {
      if (!controller.signal.aborted)
        await say({ problem: problemOf(failure, context, http.req.path) });
    }
  });
}

/** A failure as problem details (RFC 9457); one that nobody foresaw is logged. */
export function problemOf(
  failure: unknown,
  context: Pick<Context, "log">,
  path: string,
): Problem & { status: Refusal["status"] } {
  const refusal = refusalIn(failure);
  if (refusal === undefined || refusal.type === "busy")
    context.log.error({ failure: describeFailure(failure), path }, "a request failed");
  return {
    type: `urn:amigo:fault:${refusal?.type ?? "failed"}`,
    title: t("http.amigoCouldNotDoThis"),
    status: refusal?.status ?? 503,
    detail: refusal?.detail ?? t("http.somethingInAmigoFailedAnd"),
    ...(refusal?.field === undefined ? {} : { field: refusal.field }),
  };
}

/** The refusal that a failure is, or that the database's own refusal means. */
function refusalIn(failure: unknown): Refusal | undefined {
  if (failure instanceof Refusal) return failure;
  if (isUnstorable(failure)) return unstorable();
  return isBusy(failure) ? busy() : undefined;
}

/**
 * Who asks, by a bearer token or by the session cookie.
 *
 * @param isIdle whether the asking is no sign of somebody being there, as of a page that only listens
 */
export async function findCaller(
  http: HonoContext,
  context: Context,
  isIdle = false,
): Promise<Caller | undefined> {
  const bearer = /^Bearer (\S+)$/.exec(http.req.header("Authorization") ?? "")?.[1];
  if (bearer !== undefined) return callerOfToken(context.db, bearer);
  const cookie = readSecret(http, context.settings, "session");
  return cookie === undefined ? undefined : callerOfSession(context.db, cookie, isIdle);
}

/**
 * Who asks for a file, which has a route of its own: signed in, and allowed to do the action by role and scopes.
 *
 * @throws Refusal 401 or 403
 */
export async function needCaller(
  http: HonoContext,
  context: Context,
  action: Action,
): Promise<Caller> {
  const caller = await findCaller(http, context);
  speakToCaller(caller);
  return allowed(caller, action);
}

/** What an account may do that has yet to set up its two-step sign-in: that, and nothing else. */
const WITHOUT_TWO_STEPS: ReadonlySet<Action> = new Set([
  "see who is signed in",
  "manage own account",
]);

function allowed(caller: Caller | undefined, action: Action): Caller {
  if (caller === undefined) throw new Refusal(401, "signed-out", t("shared.youAreNotSignedIn"));
  if (caller.mustSetUpTwoStep === true && !WITHOUT_TWO_STEPS.has(action))
    throw new Refusal(403, "two-step/needed", t("http.yourSchoolAsksYourAccount"));
  if (!callerMay(caller, action))
    throw caller.by === "token" && may(caller.role, action)
      ? new Refusal(403, "token/scope", t("http.thisApiTokenMayNot", { action }))
      : new Refusal(403, "not-allowed", t("http.yourAccountMayNotDo"));
  return caller;
}

/** Whose member page it is, by the cookie that a mailed link has set. */
export async function findMember(http: HonoContext, context: Context): Promise<string | undefined> {
  const cookie = readSecret(http, context.settings, "member");
  return cookie === undefined ? undefined : memberOfSession(context.db, cookie);
}

/** Returns the member who asks, whom Amigo answers in their own language. Refused with 401 where nobody has opened their page. */
async function needMember(http: HonoContext, context: Context): Promise<string> {
  const member = await findMember(http, context);
  if (member === undefined)
    throw new Refusal(401, "member/signed-out", t("shared.thisPageWasClosedOr"));
  await speakTo(context.db, member);
  return member;
}

/** A request that changes something must come from our own pages: its Origin is the host that it asks. */
function refuseOtherSites(http: HonoContext): void {
  const origin = http.req.header("Origin");
  const site = http.req.header("Sec-Fetch-Site");
  const ownOrigin =
    origin === undefined ||
    (URL.canParse(origin) && new URL(origin).host === http.req.header("Host"));
  if (!ownOrigin || (site !== undefined && site !== "same-origin" && site !== "none")) {
    throw new Refusal(403, "other-site", t("http.thisRequestCameFromAnother"));
  }
}

async function readBody(http: HonoContext, type: "json" | "form"): Promise<unknown> {
  const body =
    type === "form"
      ? await http.req.parseBody().catch(() => undefined)
      : parseJson(await http.req.text());
  if (body === undefined)
    throw new Refusal(
      400,
      "bad-body",
      type === "form" ? t("http.theFormCouldNotBe") : t("http.theRequestHoldsNoJson"),
    );
  if (type === "form" && !areStorable(body as Record<string, unknown>)) throw unstorable();
  return body;
}

function parse(schema: z.ZodType | undefined, value: unknown, part: string): unknown {
  if (schema === undefined) return part === "body" ? undefined : {};
  if (part !== "body" && !areStorable(value as Record<string, string>)) throw unstorable();
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0];
  const field = issue?.path.join(".") ?? "";
  throw new Refusal(400, "bad-request", wrongWith(issue), field);
}

/** Returns what is wrong with a value: in a sentence of ours where its shape names one, else as Zod words it. */
export function wrongWith(issue: z.core.$ZodIssue | undefined): string {
  if (issue === undefined) return t("http.theRequestIsNotRight");
  if (isCoreText(issue.message)) return say({ say: issue.message });
  const field = issue.path.join(".");
  if (issue.code === "too_big" || issue.code === "too_small") {
    const isBig = issue.code === "too_big";
    return t("http.outOfBounds", {
      field,
      isBig,
      of: issue.origin,
      bound: Number(isBig ? issue.maximum : issue.minimum),
    });
  }
  return field === "" || issue.code === "custom" ? issue.message : `${field}: ${issue.message}`;
}
