import { disposition } from "../http/disposition";
import type { FileRequest } from "../http/handler";
import type { Context } from "../context";
import { orRefuse, Refusal } from "../http/fault";
import { needCaller } from "../http/route";
import { record } from "../events/record";
import { t } from "../texts/t";
import { ANSWER_FORMATS } from "./answerSheet";

/** Sends the last sheet of a source with what Amigo has to say of its rows. */
export async function exportAnswered(
  context: Context,
  http: FileRequest<"/api/sources/:id/answered/:format">,
): Promise<Response> {
  const { desk, db } = context;
  const caller = await needCaller(http, context, "see sources");
  const format = ANSWER_FORMATS.find((known) => known === http.req.param("format"));
  const id = http.req.param("id");
  if (format === undefined || !/^[0-9a-f-]{36}$/i.test(id))
    throw new Refusal(
      404,
      "not-found",
      t("sources.aSheetIsHandedBack", { formats: ANSWER_FORMATS.join(", ") }),
    );
  const sheet = orRefuse(await desk.run("answerSheet", { sourceId: id, format }));
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "export sheet",
    sentence: () => t("sources.downloaded", { name: caller.name, file: sheet.name }),
    after: { source: id },
  });
  return http.body(new Uint8Array(sheet.bytes), 200, {
    "Content-Type": TYPE_OF[sheet.format],
    "Content-Disposition": disposition("attachment", `${sheet.name}.${sheet.format}`),
    "Cache-Control": "no-store",
  });
}

const TYPE_OF = {
  csv: "text/csv; charset=utf-8",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  ods: "application/vnd.oasis.opendocument.spreadsheet",
} as const;
