import { say } from "@amigo/language/say";
import { readText } from "@amigo/core/sheet/readWorkbook";
import { understand } from "@amigo/core/understand/understand";
import { makeRoster } from "./roster";
import {
  allSheets,
  judge,
  percent,
  reliability,
  rightAmongSure,
  sharesBy,
  titlesOf,
  withTitles,
  type Outcome,
} from "./understanding/measure";

/** A word that no office writes. */
const UNKNOWN = "Zorblat";
/** In these shapes a title isn't in one row, or is the class itself. */
const WITHOUT_TITLES = ["no header", "headings", "side by side", "sheet a class", "marks"];

/**
 * Measures how well made-up sheets are understood: as they are, with one title after the other that nobody has ever seen, and
 * without any title. Prints the shares by language and shape, and how often columns are right that are said to be sure.
 */
export function measureUnderstanding(each = 3): void {
  const sheets = allSheets(each);
  const plain = sheets.map((sheet) => judge(sheet));
  console.log(`${sheets.length} made-up sheets`);
  report("as they are", plain);
  console.log(sharesBy(plain, ({ language }) => language).join("\n"));
  console.log(sharesBy(plain, ({ shape }) => shape).join("\n"));
  const titled = sheets.filter(({ shape }) => !WITHOUT_TITLES.includes(shape));
  const one = titled
    .filter((_, at) => at % each === 0)
    .flatMap((sheet) =>
      titlesOf(sheet).flatMap((title, column) =>
        title === ""
          ? []
          : [judge(withTitles(sheet, (item, at) => (at === column ? UNKNOWN : item)))],
      ),
    );
  report("one title never seen", one);
  const blank = titled.map((sheet) =>
    judge(
      withTitles(sheet, () => ""),
      { groups: false },
    ),
  );
  report("no titles at all: names and addresses", blank);
  console.log("How sure, and how often right:");
  const all = [...plain, ...one, ...blank];
  console.log(reliability(all).join("\n"));
  console.log(
    `  of all columns said to be at least 90% sure, ${percent(rightAmongSure(all, 0.9))} are right (wanted 98%)`,
  );
  measureTime();
}

function report(what: string, outcomes: readonly Outcome[]): void {
  const right = outcomes.filter((outcome) => outcome.right).length;
  const silent = outcomes.filter((outcome) => outcome.silent).length;
  console.log(
    `${what.padEnd(40)} ${percent(right / outcomes.length)} of ${outcomes.length} understood, ${silent} wrong without a question`,
  );
}

/** The time to understand a large roster, beside the time to take its text apart. */
function measureTime(): void {
  const rows = makeRoster({ students: 20_000, guardians: 32_000, classes: 600 });
  const text = rows.map((row) => row.join("\t")).join("\n");
  const parse = timed(() => readText(text));
  const book = readText(text);
  if (!book.ok) throw new Error(say(book.fault.sentence));
  const whole = timed(() => understand([{ file: "large.tsv", workbook: book.workbook }]));
  const small = readText(
    rows
      .slice(0, 61)
      .map((row) => row.join("\t"))
      .join("\n"),
  );
  if (!small.ok) throw new Error(say(small.fault.sentence));
  const sixty = timed(() => understand([{ file: "small.tsv", workbook: small.workbook }]));
  console.log(
    `20,000 rows understood in ${whole.toFixed(0)} ms, their text taken apart in ${parse.toFixed(0)} ms: ratio ${(whole / parse).toFixed(2)}`,
  );
  console.log(`60 rows understood in ${sixty.toFixed(0)} ms (wanted 300)`);
}

function timed(run: () => unknown): number {
  run();
  const before = performance.now();
  run();
  return performance.now() - before;
}
