import { busy, isBusy } from "../http/busy";
import { parentPort, workerData } from "node:worker_threads";
import { connect, type Database } from "../db/connect";
import { say as putIntoWords } from "@amigo/language/say";
import { Refusal } from "../http/fault";
import { Refused } from "../refused";
import { describeFailure } from "../describeFailure";
import type { OnProgress } from "../change/openRound";
import { writeAsHouse } from "../texts/writeAsHouse";
import type { FromDesk, ToDesk } from "./deskThread";
import { inStaffLanguage } from "../texts/inLanguage";
import { TASKS, type TaskName } from "./tasks";

const { db } = connect((workerData as { databaseUrl: string }).databaseUrl, { most: 4 });
const say = (answer: FromDesk): void => parentPort?.postMessage(answer);

/** A refusal as it can be handed to another thread: its sentence is put into words here. */
function inWords({ status, type, detail, field }: Refused) {
  return { status, type, detail: putIntoWords(detail), field };
}

/** Tasks whose answers are stored in the rows that they are about, for all who read them. */
const IN_THE_HOUSES: ReadonlySet<TaskName> = new Set<TaskName>(["carryOutRows", "endUntil"]);

/** What is handed back where something failed. */
function failed(id: number, failure: unknown): FromDesk {
  const refusal = failure instanceof Refusal ? failure : isBusy(failure) ? busy() : undefined;
  return refusal === undefined
    ? { id, failure: describeFailure(failure) }
    : { id, refusal: inWords(refusal.refused) };
}

/** Does a task, and returns what is handed back. What is refused is put into words here, where its language is spoken. */
async function done({ id, task, ask }: ToDesk): Promise<FromDesk> {
  const run = TASKS[task] as (db: Database, ask: unknown, tell: OnProgress) => Promise<unknown>;
  try {
    const answer = await run(db, ask, (step, share) => say({ id, progress: { step, share } }));
    return answer instanceof Refused ? { id, refusal: inWords(answer) } : { id, answer };
  } catch (failure) {
    return failed(id, failure);
  }
}

parentPort?.on("message", (asked: ToDesk) => {
  const language = IN_THE_HOUSES.has(asked.task) ? "" : asked.language;
  void writeAsHouse(db)
    .then(() => inStaffLanguage(() => done(asked), language))
    .catch((failure: unknown) => failed(asked.id, failure))
    .then(say);
});
