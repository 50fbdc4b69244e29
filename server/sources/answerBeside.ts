import { say } from "@amigo/language/say";
import { Refused } from "../refused";
import { rename, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import type { Context } from "../context";
import { describeFailure } from "../describeFailure";
import { t } from "../texts/t";

/** How the copies are known that Amigo writes into a watched folder; they are not offered as sheets to read. */
export const BESIDE = / with answers\.(xlsx|ods|csv)$/i;

/**
 * Writes the sheet of a watched file beside it, with the result of each row. It is written whole and then put in place, so
 * that nobody opens half of one.
 *
 * @returns what is to be told where it could not be written; empty for done
 */
export async function answerBeside(
  { settings, desk, log }: Pick<Context, "settings" | "desk" | "log">,
  source: { id: string; location: string },
  file: Uint8Array,
): Promise<string> {
  if (settings.watched === undefined) return "";
  const sheet = await desk.run("answerSheet", { sourceId: source.id, file });
  if (sheet instanceof Refused) return say(sheet.detail);
  const name = t("sources.withAnswers", {
    file: source.location.replace(/\.[^.]*$/, ""),
    format: sheet.format,
  });
  const place = join(settings.watched, name);
  const draft = join(settings.watched, `.${name}.part`);
  try {
    await writeFile(draft, sheet.bytes);
    await rename(draft, place);
    return "";
  } catch (failure) {
    log.warn(
      { failure: describeFailure(failure), place },
      "the sheet with answers could not be written",
    );
    await rm(draft, { force: true }).catch(() => undefined);
    return t("sources.theSheetWithAnswersCould");
  }
}
