import { parentPort, workerData } from "node:worker_threads";
import { connect, type Database } from "../db/connect";
import { Refusal } from "../http/fault";
import { describeFailure } from "../describeFailure";
import type { OnProgress } from "../change/openRound";
import { writeAsHouse } from "../texts/writeAsHouse";
import type { FromDesk, ToDesk } from "./desk";
import { TASKS } from "./tasks";

const { db } = connect((workerData as { databaseUrl: string }).databaseUrl);
const say = (answer: FromDesk): void => parentPort?.postMessage(answer);

parentPort?.on("message", ({ id, task, ask }: ToDesk) => {
  const run = TASKS[task] as (db: Database, ask: unknown, tell: OnProgress) => Promise<unknown>;
  const work = writeAsHouse(db).then(() =>
    run(db, ask, (step, share) => say({ id, progress: { step, share } })),
  );
  work.then(
    (answer) => say({ id, answer }),
    (failure: unknown) => {
      if (failure instanceof Refusal)
        say({
          id,
          refusal: {
            status: failure.status,
            type: failure.type,
            detail: failure.detail,
            field: failure.field,
          },
        });
      else
        say({
          id,
          failure: describeFailure(failure),
        });
    },
  );
});
