import type { Context as HonoContext, MiddlewareHandler } from "hono";
import { acceptedLanguage, type FamilyLanguage } from "@amigo/language/families";
import type { Queries } from "../db/connect";
import { usualLanguage } from "../texts/familyLanguage";
import { inLanguage } from "../texts/inLanguage";

/** Returns the language of families that a request asks for by its browser; undefined for none of them. */
export function browserLanguage(http: HonoContext): FamilyLanguage | undefined {
  return acceptedLanguage(http.req.header("Accept-Language") ?? "");
}

/** Answers requests to pages for families in the browser's language, else the house's, until it is known who asks. */
export function speakToFamilies({ db }: { db: Queries }): MiddlewareHandler {
  return async (http, next) =>
    inLanguage(browserLanguage(http) ?? (await usualLanguage(db)), async () => {
      await next();
    });
}
