import { say } from "@amigo/language/say";
import { readText } from "../sheet/readWorkbook";
import { understand, type Understood } from "../understand/understand";

/** What Amigo understands of a sheet that is written as text. */
export function understoodIn(text: string, file = "sheet.csv"): Understood {
  const book = readText(text);
  const answer = book.ok ? understand([{ file, workbook: book.workbook }]) : book;
  if (!answer.ok) throw new Error(say(answer.fault.sentence));
  return answer.understood;
}
