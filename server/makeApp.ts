import { speakToStaff } from "./http/speakToStaff";
import { Hono } from "hono";
import { secureHeaders } from "hono/secure-headers";
import { ALL_ENDPOINTS } from "@amigo/contract/endpoints";
import { openApi } from "@amigo/contract/openApi";
import { accountRoutes } from "./accounts/routes";
import { boardRoutes } from "./board/routes";
import type { Context } from "./context";
import { dateRoutes } from "./dates/routes";
import { davRoutes } from "./dav/routes";
import { davShelfRoutes } from "./dav/shelves/routes";
import { draftRoutes } from "./drafts/routes";
import { eventRoutes } from "./events/routes";
import { editRoutes } from "./edits/routes";
import { formPublicRoutes } from "./forms/publicRoutes";
import { formRoutes } from "./forms/routes";
import { printRoutes } from "./lists/printRoutes";
import { houseRoutes } from "./house/routes";
import { intakeRoutes } from "./intakes/routes";
import { jobRoutes } from "./jobs/routes";
import { journalRoutes } from "./journal/routes";
import { leaveRoutes } from "./leave/routes";
import { listRoutes } from "./lists/routes";
import { memberRoutes } from "./member/routes";
import { peopleRoutes } from "./people/routes";
import { postRoutes } from "./posts/routes";
import { privateRoutes } from "./private/routes";
import { pushRoutes } from "./push/routes";
import { reachRoutes } from "./reach/routes";
import { requestRoutes } from "./requests/routes";
import { roundRoutes } from "./rounds/routes";
import { memberShelfRoutes, shelfRoutes } from "./shelf/routes";
import { staffRoutes } from "./staff/routes";
import { retentionRoutes } from "./retention/routes";
import { mailPolicyRoutes } from "./mail/mtaSts";
import { traceRoutes } from "./trace/routes";
import { twoStepRoutes } from "./twoStep/routes";
import { signInStepRoutes } from "./twoStep/signInRoutes";
import { postedRoutes } from "./sources/postedRoutes";
import { sourceRoutes } from "./sources/routes";
import { Refusal } from "./http/fault";
import { compressAnswers } from "./http/compressAnswers";
import { logRequests } from "./http/logRequests";
import { limitBody } from "./http/limitBody";
import { servePages } from "./http/servePages";
import { Traffic } from "./http/traffic";
import type { Metrics } from "./watch/metrics";
import { healthRoutes } from "./watch/routes";
import { watchRoutes } from "./watch/watchRoutes";
import { needCaller, problemOf } from "./http/route";
import { t } from "./texts/t";
import type { FileRequest } from "./http/handler";
import { speakToFamilies } from "./http/speakToFamilies";

/** Every feature's routes. Earlier ones go before later ones where paths overlap. */
const ROUTES = [
  accountRoutes,
  boardRoutes,
  dateRoutes,
  davRoutes,
  davShelfRoutes,
  draftRoutes,
  editRoutes,
  formRoutes,
  printRoutes,
  formPublicRoutes,
  healthRoutes,
  houseRoutes,
  jobRoutes,
  intakeRoutes,
  journalRoutes,
  listRoutes,
  memberRoutes,
  peopleRoutes,
  postRoutes,
  privateRoutes,
  pushRoutes,
  reachRoutes,
  requestRoutes,
  roundRoutes,
  shelfRoutes,
  memberShelfRoutes,
  sourceRoutes,
  postedRoutes,
  staffRoutes,
  traceRoutes,
  twoStepRoutes,
  retentionRoutes,
  signInStepRoutes,
  eventRoutes,
  leaveRoutes,
  mailPolicyRoutes,
];

/** Where families read, in their own language: their pages, and what stands behind mailed links. */
const FAMILY_PATHS = ["/api/member/*", "/leave/*", "/yes/*", "/mine/*", "/f/*", "/date/*"];

/** Makes the whole HTTP side: the API, the pages, their headers, and faults as problem details. */
export function makeApp(
  context: Context,
  { traffic = new Traffic(), metrics }: { traffic?: Traffic; metrics?: Metrics | undefined } = {},
): Hono {
  const app = new Hono();
  watchRoutes(app, context, traffic);
  app.use(traffic.count);
  if (metrics !== undefined) app.use(metrics.time);
  app.use(logRequests(context.log));
  setHeaders(app, context.settings.url);
  app.use(limitBody());
  app.onError((failure, http) => {
    const problem = problemOf(failure, context, http.req.path);
    return http.json(problem, problem.status, {
      "Content-Type": "application/problem+json",
      "Cache-Control": "no-store",
    });
  });
  app.use(compressAnswers);
  app.use("/api/*", speakToStaff);
  for (const path of FAMILY_PATHS) app.use(path, speakToFamilies(context));
  for (const routes of ROUTES) routes(app, context);
  app.get("/api/openapi.json", (http) => http.json(openApi(ALL_ENDPOINTS, context.settings.url)));
  app.get("/api/samples/:name", (http) => sendSample(context, http));
  app.all("/api/*", () => {
    throw new Refusal(404, "not-found", t("app.thereIsNothingAtThis"));
  });
  servePages(app);
  return app;
}

/** Sets the headers that protect pages and files, and keeps whatever is no file of the program out of caches. */
function setHeaders(app: Hono, url: string): void {
  // Files of strangers are saved, or shown as the picture that they are; whatever they hold, it may do nothing.
  app.use(async (http, next) => {
    await next();
    if (/^\/api\/(.*\/(attachments|files)\/|house\/picture$)/.test(http.req.path))
      http.header("Content-Security-Policy", filePolicy(http.res.headers.get("Content-Type")));
  });
  app.use(
    secureHeaders({
      contentSecurityPolicy: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", "data:"],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
      referrerPolicy: "same-origin",
      strictTransportSecurity: url.startsWith("https:") ? "max-age=31536000" : false,
    }),
  );
  // Whatever is no file of the program may hold somebody's data, or stand behind a link with a secret in it.
  app.use(async (http, next) => {
    await next();
    if (http.res.headers.get("Cache-Control") === null) http.header("Cache-Control", "no-store");
  });
}

/** What a file may do where it is shown. A browser's own viewer of PDF doesn't run in a sandbox, and is one. */
function filePolicy(type: string | null): string {
  const policy = "default-src 'none'; frame-ancestors 'self'";
  return type === "application/pdf" ? policy : `${policy}; sandbox`;
}

/** Sends a sample sheet of the demo house. */
async function sendSample(
  context: Context,
  http: FileRequest<"/api/samples/:name">,
): Promise<Response> {
  await needCaller(http, context, "see sources");
  const file = await context.demo?.readSample(http.req.param("name"));
  if (file === undefined) throw new Refusal(404, "not-found", t("app.thereIsNoSuchSample"));
  return http.body(new Uint8Array(file), 200, {
    "Content-Type": "application/octet-stream",
    "Content-Disposition": `attachment; filename="${http.req.param("name")}"`,
  });
}
