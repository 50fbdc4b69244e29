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
): string {
  const own = evidence.columns[column];
  const label = labels[column] ?? "unread";
  if (own === undefined) return "";
  const { profile, title } = own;
  if (profile.count === 0) return "The column is empty.";
  const reasons: string[] = [];
  if (titlePoints(meaningOf(label), title) >= SAID) reasons.push("the title says so");
  reasons.push(
    ...cellReasons(label, own.profile),
    ...pairReasons(column, labels, evidence, titles),
  );
  if (reasons.length === 0 && label === "unread" && title.whose.has("emergency"))
    reasons.push("it is for emergencies, and the sheet names guardians");
  if (reasons.length === 0)
    reasons.push(
      label === "unread" ? "nothing tells what it holds" : "it fits best beside the other columns",
    );
  const text = reasons.join("; ");
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}

function cellReasons(label: MeaningId, profile: Evidence["columns"][number]["profile"]): string[] {
  const percent = (share: number): string => `${Math.round(share * 100)}%`;
  const { values, count } = profile;
  if (label.endsWith("address") && profile.address > 0.3)
    return [`${percent(profile.address)} of the cells are email addresses`];
  if (label === "classes" || label === "teams" || label === "site" || label === "detail")
    return [`${values} ${values === 1 ? "value" : "values"} in ${count} cells`];
  if (label === "coach") return [`${values} names in ${count} cells`];
  if (label === "student.number")
    return [
      profile.distinct > 0.98 ? "every cell is different" : `${values} numbers in ${count} cells`,
    ];
  if (label === "answered") return ["the cells are dates"];
  if (label === "guardian.relationship" && profile.tie > 0.5) return ["the cells name family ties"];
  if (label === "classes.mark" || label === "teams.mark") return [`${count} rows have a mark`];
  if (label !== "private") return [];
  const never = "its cells are never stored";
  if (profile.phone > 0.5) return ["the cells are phone numbers", never];
  if (profile.date > 0.5) return ["the cells are dates of other years", never];
  if (profile.gender > 0.8) return ["the cells tell boys from girls", never];
  return profile.street > 0.5 ? ["the cells look like postal addresses", never] : [never];
}

function pairReasons(
  column: number,
  labels: readonly MeaningId[],
  evidence: Evidence,
  titles: readonly string[],
): string[] {
  const label = labels[column] ?? "unread";
  const named = (index: number): string => `"${titles[index] ?? ""}"`;
  const strongest = (
    meanings: readonly MeaningId[],
    of: (other: number) => { share: number; rows: number },
  ): { other: number; hits: number; rows: number } | undefined =>
    labels
      .flatMap((own, other) => (meanings.includes(own) && other !== column ? [other] : []))
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
      : [`${found.hits} of ${found.rows} contain a name from ${named(found.other)}`];
  }
  if (label === "student.surname" || label === "student.name") {
    const found = strongest(["guardian.name", "guardian.surname"], (other) =>
      evidence.shares(column, other),
    );
    return found === undefined
      ? []
      : [`it shares a word with ${named(found.other)} in ${found.hits} of ${found.rows} rows`];
  }
  return [];
}
