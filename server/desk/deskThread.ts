import { Worker } from "node:worker_threads";
import { Refused, refused } from "../refused";
import type { OnProgress } from "../change/openRound";
import type { Answered, Asked, TaskName } from "./tasks";
import { programAddress } from "../programAddress";
import { languageNow } from "../texts/inLanguage";
import { t } from "../texts/t";

/** What is asked of the worker thread. */
export interface ToDesk {
  id: number;
  task: TaskName;
  ask: unknown;
  /** In which language it answers; empty for the house's. */
  language: string;
}

/** What it answers. */
export type FromDesk = { id: number } & (
  | { progress: { step: string; share: number } }
  | { answer: unknown }
  | {
      refusal: {
        status: Refused["status"];
        type: string;
        detail: string;
        field: string | undefined;
      };
    }
  | { failure: string }
);

interface Waiting extends ToDesk {
  tell: OnProgress;
  resolve: (answer: unknown) => void;
  reject: (failure: Error) => void;
}

/** Room for what is young, in MB: with the usual little of it, a large sheet spends a quarter of its time on tidying up. */
const YOUNG_MB = 192;

/** A thread with connections of its own that does one task at a time. Stopping a task ends the thread, and a new one goes on with the next. */
export class DeskThread {
  private worker: Worker | undefined;
  private readonly queue: Waiting[] = [];
  private current: Waiting | undefined;
  private next = 1;
  private closed = false;

  /** @param memory how many MB it may take before it is ended; the rest of the process goes on */
  constructor(
    private readonly databaseUrl: string,
    private readonly memory: number,
  ) {}

  /** Begins the thread before the first task, for it takes a moment; a process that only takes mail needs none. */
  warm(): void {
    this.worker ??= this.startThread();
  }

  /**
   * Has a task done.
   *
   * @returns what the task returns, or what it refuses; refused with `stopped` when `signal` ends it
   */
  run<Name extends TaskName>(
    task: Name,
    ask: Asked<Name>,
    { tell = () => undefined, signal }: { tell?: OnProgress; signal?: AbortSignal } = {},
  ): Promise<Answered<Name> | Refused> {
    return new Promise((resolve, reject) => {
      if (this.closed) {
        reject(new Error("Amigo is closing"));
        return;
      }
      const waiting: Waiting = {
        id: this.next++,
        task,
        ask,
        language: languageNow(),
        tell,
        resolve: (answer) => resolve(answer as Answered<Name> | Refused),
        reject,
      };
      if (signal?.aborted === true) {
        resolve(stopped());
        return;
      }
      signal?.addEventListener("abort", () => this.stop(waiting), { once: true });
      this.queue.push(waiting);
      this.begin();
    });
  }

  async close(): Promise<void> {
    this.closed = true;
    for (const waiting of this.queue.splice(0)) waiting.reject(new Error("Amigo is closing"));
    await this.worker?.terminate();
  }

  private begin(): void {
    if (this.current !== undefined || this.closed) return;
    this.current = this.queue.shift();
    if (this.current === undefined) return;
    this.worker ??= this.startThread();
    const { id, task, ask, language } = this.current;
    this.worker.postMessage({ id, task, ask, language } satisfies ToDesk);
  }

  private startThread(): Worker {
    const worker = new Worker(programAddress("desk", new URL("boot.mjs", import.meta.url)), {
      workerData: { databaseUrl: this.databaseUrl },
      resourceLimits: { maxOldGenerationSizeMb: this.memory, maxYoungGenerationSizeMb: YOUNG_MB },
    });
    worker.unref();
    worker.on("message", (said: FromDesk) => this.takeMessage(said));
    worker.on("error", (failure: NodeJS.ErrnoException) =>
      this.replaceThread(
        worker,
        failure.code === "ERR_WORKER_OUT_OF_MEMORY"
          ? refused(
              413,
              "reading/too-large",
              t("desk.thisIsMoreThanAmigo", { memory: this.memory }),
            )
          : failure,
      ),
    );
    worker.on("exit", () => this.replaceThread(worker, new Error("the desk's thread ended")));
    return worker;
  }

  private takeMessage(said: FromDesk): void {
    const { current } = this;
    if (current === undefined || said.id !== current.id) return;
    if ("progress" in said) {
      current.tell(said.progress.step, said.progress.share);
      return;
    }
    this.current = undefined;
    if ("answer" in said) current.resolve(said.answer);
    else if ("refusal" in said)
      current.resolve(
        refused(said.refusal.status, said.refusal.type, said.refusal.detail, said.refusal.field),
      );
    else current.reject(new Error(said.failure));
    this.begin();
  }

  private replaceThread(worker: Worker, failure: Error | Refused): void {
    if (worker !== this.worker) return;
    this.worker = undefined;
    const { current } = this;
    this.current = undefined;
    if (failure instanceof Refused) current?.resolve(failure);
    else current?.reject(failure);
    this.begin();
  }

  private stop(waiting: Waiting): void {
    const at = this.queue.indexOf(waiting);
    if (at >= 0) this.queue.splice(at, 1);
    else if (this.current !== waiting) return;
    waiting.resolve(stopped());
    if (at >= 0) return;
    const { worker } = this;
    this.worker = undefined;
    this.current = undefined;
    void worker?.terminate();
    this.begin();
  }
}

function stopped(): Refused {
  return refused(409, "stopped", t("desk.thisWasStoppedNothingOf"));
}
