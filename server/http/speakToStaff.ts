import type { MiddlewareHandler } from "hono";
import { acceptedStaffLanguage } from "@amigo/language/staff";
import { inStaffLanguage } from "../texts/inLanguage";

/** Answers requests of staff in the browser's language, else the house's, until it is known who asks. */
export const speakToStaff: MiddlewareHandler = (http, next) =>
  inStaffLanguage(next, acceptedStaffLanguage(http.req.header("Accept-Language") ?? "") ?? "");
