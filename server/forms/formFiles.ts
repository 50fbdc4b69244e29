import { orRefuse } from "../http/fault";
import type { Context as HonoContext } from "hono";
import { wordsIn } from "@amigo/core/forms/form";
import { paperOf } from "@amigo/core/text/place";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import { needCaller } from "../http/route";
import { record } from "../events/record";
import { familyLanguage } from "@amigo/language/families";
import { inLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import { noticeLine } from "./noticeLine";
import { answersCsv } from "./answersCsv";
import { missingFor } from "./missing";
import { noticePdf, qrPng, qrSvg, slipsPdf } from "./notice";
import type { LoadedForm } from "./queries";
import { codesFor } from "./slips";
import { loadVisibleForm } from "./loadVisibleForm";

/** A file that is made of one form. */
interface FormFile {
  type: string;
  /** What follows the form's short address in the file's name. */
  ending: string;
  /** Whether it holds personal data, so that the journal says who downloaded it. */
  isPersonal: boolean;
  make(asked: Asked): Promise<string | Buffer>;
}

interface Asked {
  context: Context;
  form: LoadedForm;
  http: HonoContext;
  caller: Caller;
}

/** The files that can be made of a form, by their paths. */
export const FORM_FILES: ReadonlyMap<string, FormFile> = new Map<string, FormFile>([
  [
    "/api/forms/:id/answers.csv",
    {
      type: "text/csv; charset=utf-8",
      ending: "-answers.csv",
      isPersonal: true,
      make: ({ context, form }) => answersCsv(context.db, form),
    },
  ],
  [
    "/api/forms/:id/qr.svg",
    {
      type: "image/svg+xml",
      ending: ".svg",
      isPersonal: false,
      make: ({ context, form }) => qrSvg(urlOf(context, form)),
    },
  ],
  [
    "/api/forms/:id/qr.png",
    {
      type: "image/png",
      ending: ".png",
      isPersonal: false,
      make: ({ context, form }) => qrPng(urlOf(context, form)),
    },
  ],
  [
    "/api/forms/:id/notice.pdf",
    { type: "application/pdf", ending: "-notice.pdf", isPersonal: false, make: makeNotice },
  ],
  [
    "/api/forms/:id/slips.pdf",
    { type: "application/pdf", ending: "-slips.pdf", isPersonal: true, make: makeSlips },
  ],
]);

/** Sends a file of a form to whoever sees the form. */
export async function sendFormFile(
  context: Context,
  http: HonoContext,
  { type, ending, isPersonal, make }: FormFile,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, "make forms");
  const form = orRefuse(await loadVisibleForm(db, http.req.param("id") ?? "", caller));
  const file = `${form.slug}${ending}`;
  const made = await make({ context, form, http, caller });
  if (isPersonal)
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "export form",
      sentence: () =>
        t("forms.downloadedOfTheForm", {
          name: caller.name,
          file,
          title: wordsIn(form.content, "").title,
        }),
      after: { form: form.id },
    });
  return http.body(typeof made === "string" ? made : new Uint8Array(made), 200, {
    "Content-Type": type,
    "Content-Disposition": `${http.req.query("look") === undefined ? "attachment" : "inline"}; filename="${file}"`,
    "Cache-Control": "no-store",
  });
}

function makeNotice({ context, form, http }: Asked): Promise<Buffer> {
  const words = wordsIn(form.content, http.req.query("language") ?? "");
  const paper = http.req.query("paper");
  return noticePdf({
    house: form.house,
    paper: paper === "A4" || paper === "Letter" ? paper : "A5",
    title: words.title,
    line: http.req.query("line")?.slice(0, 300) ?? noticeLine(words.language),
    url: urlOf(context, form),
    language: words.language,
  });
}

async function makeSlips({ context, form, caller }: Asked): Promise<Buffer> {
  const { db } = context;
  const { students } = await missingFor(db, form, caller);
  const codes = await codesFor(
    db,
    form.id,
    students.map(({ id }) => id),
  );
  const { title, language } = wordsIn(form.content, "");
  return inLanguage(familyLanguage(language) ?? "en", async () =>
    slipsPdf({
      house: form.house,
      paper: paperOf((await loadHouse(db))?.country ?? ""),
      title,
      slips: students.map(({ id, name, classes }) => ({
        name,
        classes: classes.join(", "),
        code: codes.get(id) ?? "",
        url: `${urlOf(context, form)}?code=${codes.get(id) ?? ""}`,
      })),
    }),
  );
}

function urlOf({ settings }: Pick<Context, "settings">, form: LoadedForm): string {
  return `${settings.url}/f/${form.slug}`;
}
