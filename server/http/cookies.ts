import type { Context as HonoContext } from "hono";
import { deleteCookie, getCookie, setCookie } from "hono/cookie";
import type { Settings } from "../settings";

/** Cookies that hold a secret: an account's session, a sign-in that is under way, and a member's page. */
const NAMES = { session: "amigo_session", step: "amigo_step", member: "amigo_member" } as const;

type Secret = keyof typeof NAMES;
type Under = Pick<Settings, "url">;

const isSecure = ({ url }: Under): boolean => url.startsWith("https:");

/** The secret in a cookie; under https only one that this very host has set, over https (RFC 6265bis, section 4.1.3.2). */
export function readSecret(http: HonoContext, settings: Under, which: Secret): string | undefined {
  return isSecure(settings) ? getCookie(http, NAMES[which], "host") : getCookie(http, NAMES[which]);
}

/** Puts a secret into a cookie that no script reads and no other site sends along. */
export function keepSecret(
  http: HonoContext,
  settings: Under,
  which: Secret,
  secret: string,
  seconds: number,
): void {
  const options = {
    httpOnly: true,
    sameSite: which === "member" ? "Strict" : "Lax",
    path: "/",
    maxAge: seconds,
  } as const;
  if (isSecure(settings))
    setCookie(http, NAMES[which], secret, { ...options, secure: true, prefix: "host" });
  else setCookie(http, NAMES[which], secret, options);
}

export function forgetSecret(http: HonoContext, settings: Under, which: Secret): void {
  if (isSecure(settings))
    deleteCookie(http, NAMES[which], { path: "/", secure: true, prefix: "host" });
  else deleteCookie(http, NAMES[which], { path: "/" });
}
