import { getConnInfo } from "@hono/node-server/conninfo";
import type { Context as HonoContext } from "hono";
import type { ProgramUse } from "@amigo/core/access/programUses";
import { callerOfProgram, type Caller } from "../callers/caller";
import { recordFailure, signInLimits } from "../accounts/signIn";
import type { Context } from "../context";
import { countTry } from "../http/limitTries";
import { networkAddress } from "../http/networkAddress";
import { t } from "../texts/t";

/**
 * Finds the account of a program by HTTP Basic (RFC 7617): the account's address, and a password that was made for what it
 * asks for. It may come over https, or from this very machine.
 *
 * @returns the account, or the answer for whoever has none
 */
export async function signInProgram(
  http: HonoContext,
  { db, settings }: Context,
  use: Exclude<ProgramUse, "mail">,
): Promise<Caller | Response> {
  if (!settings.url.startsWith("https:") && !isFromHere(http, settings.proxied))
    return new Response(t("dav.needsHttps"), { status: 403 });
  const given = basicIn(http.req.header("Authorization") ?? "");
  if (given === undefined) return asked();
  const { email, password } = given;
  const caller = await callerOfProgram(db, email, password, use);
  if (caller !== undefined) return caller;
  const from = networkAddress(http, settings);
  if ((await countTry(db, signInLimits(email, from))) === undefined)
    return new Response(t("accounts.thereWereTooManyAttempts"), {
      status: 429,
      headers: { "Retry-After": "900" },
    });
  await recordFailure(db, email, from);
  return asked();
}

function asked(): Response {
  return new Response(t("dav.makeAPassword"), {
    status: 401,
    headers: { "WWW-Authenticate": 'Basic realm="Amigo", charset="UTF-8"' },
  });
}

/** Whether a request comes from this very machine. Behind a proxy all of them seem to. */
function isFromHere(http: HonoContext, isProxied: boolean): boolean {
  const address = getConnInfo(http).remote.address ?? "";
  return !isProxied && /^(::ffff:)?127\.|^::1$/.test(address);
}

/** The two parts of a Basic header. */
function basicIn(header: string): { email: string; password: string } | undefined {
  const [, encoded] = /^Basic ([A-Za-z0-9+/=]{1,1000})$/i.exec(header.trim()) ?? [];
  if (encoded === undefined) return undefined;
  const text = Buffer.from(encoded, "base64").toString("utf8");
  const at = text.indexOf(":");
  if (at < 1 || text.includes("\0")) return undefined;
  return { email: text.slice(0, at).trim().toLowerCase(), password: text.slice(at + 1) };
}
