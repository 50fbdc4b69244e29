import { readPosted, storedFields } from "@amigo/core/sheet/postedAnswers";
import { hashToken } from "../callers/tokens";
import type { Context } from "../context";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import type { FileRequest } from "../http/handler";
import { isWithinTries } from "../http/limitTries";
import { networkAddress } from "../http/networkAddress";
import { parseJson } from "../http/parseJson";
import { t } from "../texts/t";
import { findByToken, countPostedTo, storePostedAnswer, markDue } from "./postedQueries";
import { findLastReading } from "./readingQueries";

/** How many answers one address takes in how many minutes, and how many wrong addresses may be tried from one network address. */
const ANSWERS = 600;

const WRONG = 30;

const MINUTES = 10;

/** How many answers one source keeps; beyond, another one is begun. */
const MOST_ANSWERS = 50_000;

/** Stores an answer that an outside form tool posts. */
export async function takePosted(
  context: Context,
  http: FileRequest<"/in/:token">,
): Promise<Response> {
  const { db } = context;
  const hash = hashToken(http.req.param("token"));
  const source = await findByToken(db, hash);
  if (source === undefined) {
    if (
      !(await isWithinTries(db, `posted ${networkAddress(http, context.settings)}`, WRONG, MINUTES))
    )
      throw new Refusal(429, "too-many", t("sources.tooManyWrongAddressesWere"));
    throw new Refusal(404, "not-found", t("sources.thereIsNothingAtThis2"));
  }
  if (!(await isWithinTries(db, `posted ${source.id}`, ANSWERS, MINUTES)))
    throw new Refusal(429, "too-many", t("sources.tooManyAnswersCameIn"));
  const isJson = (http.req.header("Content-Type") ?? "").includes("json");
  // A form tool can't mend what a family typed: what can't be kept is tidied away by `readPosted`.
  const body: unknown = await (
    isJson
      ? http.req.text().then((text) => parseJson(text, () => true))
      : http.req.parseBody({ all: true })
  ).catch(() => undefined);
  const read = readPosted(body);
  if (!read.ok) throw new Refusal(400, "posted/not-an-answer", read.sentence);
  const isKept = await db.transaction(async (tx) => {
    const count = await countPostedTo(tx, source.id);
    if ((count?.answers ?? 0) >= MOST_ANSWERS) return false;
    const last = await findLastReading(tx, source.id);
    const fields = storedFields(read.fields, last?.plan);
    await storePostedAnswer(tx, source.id, fields);
    // What a person has looked at once is read by itself from then on.
    await markDue(tx, source.id);
    await notify(tx, "sources", "posted");
    return true;
  });
  if (!isKept) throw new Refusal(409, "posted/full", t("sources.thisSourceTakesNoMore"));
  return http.json({ received: true }, 202);
}
