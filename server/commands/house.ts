import { say } from "@amigo/language/say";
import { readFileSync, statSync } from "node:fs";
import { basename } from "node:path";
import { readAgain } from "@amigo/core/sheet/readAgain";
import { planOf } from "@amigo/core/sheet/readingPlan";
import { readTable } from "@amigo/core/sheet/readTable";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import { counted } from "@amigo/core/text/sentence";
import { getCauses, type CauseLine } from "@amigo/contract/causes";
import {
  getOpenRound,
  getRound,
  getTakeBack,
  postStep,
  postTakeBack,
  type RoundPage,
} from "@amigo/contract/rounds";
import { getKnownWords, postReading } from "@amigo/contract/readings";
import { getSource, getSources, postReadNow } from "@amigo/contract/sources";
import type { AskedHouse } from "./askHouse";

/** Counts for guards as they are typed at the command line: `--pass "guard id=12"`. */
export type Passed = Record<string, number>;

/**
 * Reads a source of the house: the file that is given, by the plan of its last reading, or else what stands in its own place.
 *
 * @throws Error with a sentence where there is no such source or the file can't be read
 */
export async function readSource(
  house: AskedHouse,
  name: string,
  file: string | undefined,
): Promise<string> {
  const sources = await house.ask(getSources);
  const found = sources.find((source) => source.name.toLowerCase() === name.toLowerCase());
  if (found === undefined)
    throw new Error(
      `There is no source "${name}".${sources.length === 0 ? "" : ` There is ${sources.map((source) => `"${source.name}"`).join(", ")}.`}`,
    );
  if (file === undefined) {
    const { ok, outcome } = await house.ask(postReadNow, { params: { id: found.id } });
    if (!ok) throw new Error(outcome);
    return outcome;
  }
  const bytes = new Uint8Array(readFileSync(file));
  const book = readWorkbook(bytes);
  if (!book.ok) throw new Error(`${file}: ${say(book.fault.sentence)}`);
  const { plan: last } = await house.ask(getSource, { params: { id: found.id } });
  const hints = { file: basename(file), known: await house.ask(getKnownWords) };
  const read =
    last === null
      ? readTable(book.workbook, undefined, hints)
      : readAgain(book.workbook, last, hints);
  if (!read.ok) throw new Error(`${file}: ${say(read.fault.sentence)}`);
  const form = new FormData();
  form.set("file", new File([bytes], basename(file)));
  form.set("plan", JSON.stringify(planOf(read.table, "others" in read ? read.others : [])));
  form.set("written", statSync(file).mtime.toISOString());
  const { students, round, causes, same } = await house.ask(postReading, {
    params: { id: found.id },
    body: form,
  });
  return `${same ? "The same rows as before" : `${counted(students, "student")} imported`}; ${round === null ? "nothing changes" : `${counted(causes, "change")} in round ${round} to decide`}.`;
}

/** Shows the open round, or a past one: its changes by kind, its safety checks, its totals. */
export async function showRound(house: AskedHouse, number: number | undefined): Promise<string> {
  const round =
    number === undefined
      ? await house.ask(getOpenRound)
      : await house.ask(getRound, { params: { number } });
  if (round === null) return "No round is open: everything is in step.";
  return describe(round, await allCauses(house, round.number));
}

async function allCauses(house: AskedHouse, number: number): Promise<CauseLine[]> {
  const causes: CauseLine[] = [];
  let after: number | undefined;
  do {
    const page = await house.ask(getCauses, { params: { number }, query: { after, limit: 500 } });
    causes.push(...page.causes);
    after = page.next ?? undefined;
  } while (after !== undefined);
  return causes;
}

/** Brings in step what is accepted of the open round. */
export async function acceptRound(house: AskedHouse, passed: Passed): Promise<string> {
  const round = await house.ask(getOpenRound);
  if (round === null) return "No round is open: everything is in step.";
  const { lists, joins, leaves, next } = await house.ask(postStep, {
    body: { round: round.number, version: round.version, passed },
  });
  return `Round ${round.number}: ${counted(lists, "list")} brought in step, ${joins} joined, ${leaves} left.${next === null ? "" : ` What is on hold waits in round ${next}.`}`;
}

/** Undoes a past round; without `--yes` it only says what that would do. */
export async function takeRoundBack(
  house: AskedHouse,
  number: number,
  passed: Passed,
  yes: boolean,
): Promise<string> {
  if (!yes) {
    const { causes, totals, guards, leftAlone } = await house.ask(getTakeBack, {
      params: { number },
    });
    return [
      `Undoing round ${number} would undo ${counted(totals.accepted, "change")} on ${counted(totals.lists, "list")}: ${totals.joins} join, ${totals.leaves} leave, ${totals.replaced} replaced.`,
      ...causes.map(({ kind, title, detail }) => `  ${kind}: ${title}, ${detail}`),
      ...(totals.accepted > causes.length ? [`  and ${totals.accepted - causes.length} more`] : []),
      ...guards.map(guardLine),
      ...leftAlone.map((sentence) => `  left alone: ${sentence}`),
      "Add --yes to do it.",
    ].join("\n");
  }
  const done = await house.ask(postTakeBack, { params: { number }, body: { passed } });
  return `Round ${number} was undone by round ${done.round}: ${counted(done.lists, "list")}, ${done.joins} joined, ${done.leaves} left.`;
}

function describe(
  { number, state, closedBy, guards, totals, leftAlone }: RoundPage,
  causes: readonly CauseLine[],
): string {
  return [
    `Round ${number}, ${state === "open" ? "open" : `carried out${closedBy === null ? "" : ` by ${closedBy}`}`}: ${counted(totals.accepted + totals.held, "change")}, ${totals.accepted} accepted, ${totals.held} on hold; ${totals.joins} join, ${totals.leaves} leave, ${totals.replaced} replaced on ${counted(totals.lists, "list")}`,
    ...guards.map(guardLine),
    ...causes.map(
      ({ kind, title, detail, decision }) =>
        `  ${decision === "held" ? "on hold: " : ""}${kind}: ${title}, ${detail}`,
    ),
    ...leftAlone.map((sentence) => `  left alone: ${sentence}`),
  ].join("\n");
}

function guardLine({
  id,
  about,
  sentence,
  count,
}: {
  id: string;
  about: string;
  sentence: string;
  count: number;
}): string {
  return `  ! ${about} ${sentence} To confirm: --pass "${id}=${count}"`;
}
