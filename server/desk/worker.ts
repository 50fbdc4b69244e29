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
import { TASKS } from "./tasks";

const { db } = connect((workerData as { databaseUrl: string }).databaseUrl, { most: 4 });
const say = (answer: FromDesk): void => parentPort?.postMessage(answer);

/** A refusal as it can be handed to another thread: its sentence is put into words here. */
function inWords({ status, type, detail, field }: Refused) {
  return { status, type, detail: putIntoWords(detail), field };
}

parentPort?.on("message", ({ id, task, ask }: ToDesk) => {
  const run = TASKS[task] as (db: Database, ask: unknown, tell: OnProgress) => Promise<unknown>;
  const work = writeAsHouse(db).then(() =>
    run(db, ask, (step, share) => say({ id, progress: { step, share } })),
  );
  work.then(
    (answer) => say(answer instanceof Refused ? { id, refusal: inWords(answer) } : { id, answer }),
    (failure: unknown) => {
      const refusal = failure instanceof Refusal ? failure : isBusy(failure) ? busy() : undefined;
      say(
        refusal === undefined
          ? { id, failure: describeFailure(failure) }
          : { id, refusal: inWords(refusal.refused) },
      );
    },
  );
});
