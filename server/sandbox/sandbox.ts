import { fork, type ChildProcess } from "node:child_process";
import { fileURLToPath } from "node:url";
import { isMainThread } from "node:worker_threads";
import type { DNSResolver } from "mailauth";
import { programAddress } from "../programAddress";
import type { SandboxAnswer, SandboxAsk, SandboxTask } from "./tasks";

/** What the child is told: a task, or the DNS's answer to a question of it. */
export type ToChild =
  | { id: number; task: SandboxTask; ask: unknown }
  | { question: number; records: unknown }
  | { question: number; failure: string; code: string };

/** What it says. */
export type FromChild =
  | { ready: true }
  | { id: number; answer: unknown }
  | { id: number; failure: string }
  | { id: number; unreadable: true }
  | { id: number; question: number; name: string; type: string };

/** Why a task came to nothing: it took more time or memory than it may, the process broke, or nobody could read what it was given. */
export type EndedBy = "time" | "memory" | "crash" | "content";

/** Thrown where a file or a mail can't be opened: it ended the process that was to do it, or its parser gave up. */
export class SandboxEnded extends Error {
  constructor(
    readonly by: EndedBy,
    task: SandboxTask,
  ) {
    super(
      by === "content"
        ? `what came from outside could not be read at ${task}`
        : `the process that opens what comes from outside was ended (${by}) at ${task}`,
    );
  }
}

interface Waiting {
  id: number;
  task: SandboxTask;
  ask: unknown;
  resolver: DNSResolver | undefined;
  resolve: (answer: unknown) => void;
  reject: (failure: Error) => void;
}

interface Child {
  process: ChildProcess;
  current: Waiting | undefined;
}

/** What one task may take. */
export interface SandboxLimits {
  /** Room for JavaScript values, in MB. */
  heap: number;
  /** All memory of the process, octets and long texts included, in MB: the watchdog counts it. */
  memory: number;
  /** How many times as long as usual each task may take. */
  patience: number;
}

const LIMITS: SandboxLimits = { heap: 1536, memory: 2048, patience: 1 };

/**
 * Opens files and mails from outside in processes of their own, one task at a time in each: whatever one of them does to its
 * process ends that task and nothing else. The processes know no settings, no database and no secrets.
 */
export class Sandbox {
  private readonly children: Child[] = [];
  private readonly queue: Waiting[] = [];
  private next = 1;

  constructor(
    private readonly most: number,
    private readonly limits: SandboxLimits = LIMITS,
  ) {}

  /**
   * Has a task done.
   *
   * @param resolver asks the DNS, where the task may
   * @throws SandboxEnded where the task took more than it may or what it was given can't be read; Error where it failed by a fault of ours
   */
  run<Name extends SandboxTask>(
    task: Name,
    ask: SandboxAsk<Name>,
    resolver?: DNSResolver,
  ): Promise<SandboxAnswer<Name>> {
    return new Promise((resolve, reject) => {
      this.queue.push({
        id: this.next++,
        task,
        ask,
        resolver,
        resolve: (answer) => resolve(answer as SandboxAnswer<Name>),
        reject,
      });
      this.begin();
    });
  }

  /** Begins a process before the first task, for it takes a moment. */
  warm(): void {
    if (this.children.length === 0) this.children.push(this.start());
  }

  private begin(): void {
    while (this.queue.length > 0) {
      let free = this.children.find(({ current }) => current === undefined);
      if (free === undefined) {
        if (this.children.length >= this.most) return;
        free = this.start();
        this.children.push(free);
      }
      const waiting = this.queue.shift();
      if (waiting === undefined) return;
      free.current = waiting;
      hold(free.process, true);
      const { id, task, ask } = waiting;
      free.process.send({ id, task, ask } satisfies ToChild, () => undefined);
    }
  }

  private start(): Child {
    const { heap, memory, patience } = this.limits;
    const script = fileURLToPath(programAddress("sandbox", new URL("boot.mjs", import.meta.url)));
    const process_ = fork(script, [String(memory), String(patience)], {
      execArgv: [`--max-old-space-size=${heap}`],
      env: { PATH: process.env.PATH ?? "", TZ: "UTC" },
      serialization: "advanced",
      stdio: ["ignore", "ignore", "ignore", "ipc"],
    });
    const child: Child = { process: process_, current: undefined };
    hold(process_, false);
    process_.on("message", (said: FromChild) => this.hear(child, said));
    process_.on("error", () => this.fall(child, "crash"));
    process_.on("exit", (_code, signal) =>
      this.fall(
        child,
        signal === "SIGALRM"
          ? "time"
          : signal === "SIGKILL" || signal === "SIGABRT"
            ? "memory"
            : "crash",
      ),
    );
    return child;
  }

  private hear(child: Child, said: FromChild): void {
    const { current } = child;
    if ("ready" in said || current?.id !== said.id) return;
    if ("question" in said) {
      void answerQuestion(child.process, said, current.resolver);
      return;
    }
    child.current = undefined;
    hold(child.process, false);
    if ("answer" in said) current.resolve(said.answer);
    else if ("unreadable" in said) current.reject(new SandboxEnded("content", current.task));
    else current.reject(new Error(said.failure));
    this.begin();
  }

  private fall(child: Child, by: EndedBy): void {
    const at = this.children.indexOf(child);
    if (at < 0) return;
    this.children.splice(at, 1);
    child.current?.reject(new SandboxEnded(by, child.current.task));
    this.begin();
  }
}

/** Whether this process stays for the sake of the child: only while a task is under way. */
function hold(child: ChildProcess, isBusy: boolean): void {
  if (isBusy) {
    child.ref();
    child.channel?.ref();
  } else {
    child.unref();
    child.channel?.unref();
  }
}

async function answerQuestion(
  child: ChildProcess,
  { question, name, type }: { question: number; name: string; type: string },
  resolver: DNSResolver | undefined,
): Promise<void> {
  let told: ToChild;
  try {
    if (resolver === undefined) throw Object.assign(new Error("no DNS here"), { code: "EREFUSED" });
    told = { question, records: await resolver(name, type) };
  } catch (failure) {
    const { message, code } = failure as NodeJS.ErrnoException;
    told = { question, failure: message, code: code ?? "ESERVFAIL" };
  }
  if (child.connected) child.send(told, () => undefined);
}

/** This thread's own: two processes beside pages and mail, so that one slow mail holds up no other, and one beside the desk. */
export const sandbox = new Sandbox(isMainThread ? 2 : 1);
