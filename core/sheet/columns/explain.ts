import { message, sentences, type Message } from "@amigo/language/message";
import { meaningOf } from "../meanings/allMeanings";
import type { MeaningId } from "../meanings/meaning";
import type { Evidence } from "./evidence";
import { titlePoints } from "./titlePoints";

const SAID = 2;

/**
 * Says in a sentence why a column is taken for what it is, with its evidence: what its title says, what its cells are like,
 * and with which other column it belongs together.
 *
 * @param titles the titles as people read them
 */
export function explain(
  column: number,
  labels: readonly MeaningId[],
  evidence: Evidence,
  titles: readonly string[],
): Message {
  const foundColumn = evidence.columns[column];
  const label = labels[column] ?? "unread";
  if (foundColumn === undefined) return sentences();
  const { profile, title } = foundColumn;
  if (profile.count === 0) return message("sheet.columnIsEmpty");
  const reasons: Message[] = [];
  if (titlePoints(meaningOf(label), title) >= SAID) reasons.push(message("sheet.titleSaysSo"));
  reasons.push(
    ...cellReasons(label, foundColumn.profile),
    ...pairReasons(column, labels, evidence, titles),
  );
  if (reasons.length === 0 && label === "unread" && title.whose.has("emergency"))
    reasons.push(message("sheet.isForEmergencies"));
  if (reasons.length === 0)
    reasons.push(message(label === "unread" ? "sheet.nothingTells" : "sheet.fitsBest"));
  return sentences(...reasons);
}

function cellReasons(label: MeaningId, profile: Evidence["columns"][number]["profile"]): Message[] {
  const { values, count } = profile;
  if (label.endsWith("address") && profile.address > 0.3)
    return [message("sheet.shareOfAddresses", { share: profile.address })];
  if (label === "classes" || label === "teams" || label === "site" || label === "detail")
    return [message("sheet.valuesInCells", { values, count })];
  if (label === "coach") return [message("sheet.namesInCells", { values, count })];
  if (label === "student.number")
    return [
      profile.distinct > 0.98
        ? message("sheet.everyCellDiffers")
        : message("sheet.numbersInCells", { values, count }),
    ];
  if (label === "answered") return [message("sheet.cellsAreDates")];
  if (label === "guardian.relationship" && profile.tie > 0.5)
    return [message("sheet.cellsAreTies")];
  if (label === "classes.mark" || label === "teams.mark")
    return [message("sheet.rowsHaveMark", { count })];
  if (label !== "private") return [];
  const never = message("sheet.cellsNeverStored");
  if (profile.phone > 0.5) return [message("sheet.cellsArePhones"), never];
  if (profile.date > 0.5) return [message("sheet.cellsAreOldDates"), never];
  if (profile.gender > 0.8) return [message("sheet.cellsAreGenders"), never];
  return profile.street > 0.5 ? [message("sheet.cellsAreStreets"), never] : [never];
}

function pairReasons(
  column: number,
  labels: readonly MeaningId[],
  evidence: Evidence,
  titles: readonly string[],
): Message[] {
  const label = labels[column] ?? "unread";
  const named = (index: number): string => titles[index] ?? "";
  const strongest = (
    meanings: readonly MeaningId[],
    of: (other: number) => { share: number; rows: number },
  ): { other: number; hits: number; rows: number } | undefined =>
    labels
      .flatMap((meaningId, other) =>
        meanings.includes(meaningId) && other !== column ? [other] : [],
      )
      .map((other) => ({ other, ...of(other) }))
      .filter(({ share, rows }) => share >= 0.4 && rows >= 3)
      .sort((a, b) => b.share - a.share)
      .map(({ other, share, rows }) => ({ other, hits: Math.round(share * rows), rows }))[0];
  if (label === "guardian.address" || label === "student.address") {
    const names: MeaningId[] =
      label === "student.address"
        ? ["student.name", "student.surname", "student.given"]
        : ["guardian.name", "guardian.surname", "guardian.given"];
    const found = strongest(names, (other) => evidence.holds(other, column));
    return found === undefined
      ? []
      : [
          message("sheet.containName", {
            hits: found.hits,
            rows: found.rows,
            title: named(found.other),
          }),
        ];
  }
  if (label === "student.surname" || label === "student.name") {
    const found = strongest(["guardian.name", "guardian.surname"], (other) =>
      evidence.shares(column, other),
    );
    return found === undefined
      ? []
      : [
          message("sheet.sharesWord", {
            hits: found.hits,
            rows: found.rows,
            title: named(found.other),
          }),
        ];
  }
  return [];
}
