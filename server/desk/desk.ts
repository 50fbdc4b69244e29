import type { Refused } from "../refused";
import type { OnProgress } from "../change/openRound";
import { DeskThread } from "./deskThread";
import type { Answered, Asked, TaskName } from "./tasks";

/** How much memory, in MB, each thread may take, unless the settings say otherwise. */
const MEMORY = 1024;

/** Tasks that only look: they wait for no change, and no change waits for them. */
const LOOKING: ReadonlySet<TaskName> = new Set<TaskName>([
  "answerSheet",
  "matchSources",
  "planEdit",
  "planSeason",
  "planTakeBack",
  "readingPage",
]);

/**
 * Everything that computes much, or changes rounds, is done here, so that pages and mail go on meanwhile: what changes something in
 * one thread, one thing at a time; what only looks in another, so that a preview never waits for an import. Stopping ends the
 * thread, and the database takes everything back that was not finished.
 */
export class Desk {
  private readonly changing: DeskThread;
  private readonly looking: DeskThread;

  constructor(databaseUrl: string, memory = MEMORY) {
    this.changing = new DeskThread(databaseUrl, memory);
    this.looking = new DeskThread(databaseUrl, memory);
  }

  /** Begins the thread for changes before the first task, for it takes a moment; a process that only takes mail needs none. */
  warm(): void {
    this.changing.warm();
  }

  /**
   * Has a task done.
   *
   * @returns what the task returns, or what it refuses; refused with `stopped` when `signal` ends it
   */
  run<Name extends TaskName>(
    task: Name,
    ask: Asked<Name>,
    how: { tell?: OnProgress; signal?: AbortSignal } = {},
  ): Promise<Answered<Name> | Refused> {
    return (LOOKING.has(task) ? this.looking : this.changing).run(task, ask, how);
  }

  async close(): Promise<void> {
    await Promise.all([this.changing.close(), this.looking.close()]);
  }
}
