import pino, { type Logger } from "pino";
import type { Settings } from "./settings";

/** How many lines of one warning or fault are written in a second. */
const MOST = 3;
const SECOND = 1000;
/** From this level on lines are counted: `warn`. */
const WARN = 40;
/** How many different ones are remembered. */
const REMEMBERED = 500;

/**
 * Makes the log: one line of JSON each, on standard output or in the file that the settings name, which is opened again at SIGHUP
 * so that the system can rotate it. A fault that comes again and again is written a few times a second, with how many lines
 * of it were left out.
 */
export function makeLog({ logLevel, logFile }: Pick<Settings, "logLevel" | "logFile">): Logger {
  const destination =
    logFile === undefined
      ? undefined
      : pino.destination({ dest: logFile, mkdir: true, sync: false });
  if (destination !== undefined) process.on("SIGHUP", () => destination.reopen());
  const often = new Often(() => Date.now());
  const options: pino.LoggerOptions = {
    level: logLevel,
    hooks: {
      logMethod(args, method, level) {
        const left = level < WARN ? 0 : often.leftOut(keyOf(args));
        if (left === undefined) return;
        method.apply(this, left === 0 ? args : withCount(args, left));
      },
    },
  };
  return destination === undefined ? pino(options) : pino(options, destination);
}

/** What a line is about: its message, and the head of the failure that it tells. */
function keyOf(args: readonly unknown[]): string {
  return args
    .map((arg) => {
      if (typeof arg === "string") return arg;
      const { failure } = (arg ?? {}) as { failure?: unknown };
      return typeof failure === "string" ? (failure.split("\n")[0] ?? "") : "";
    })
    .join(" ");
}

function withCount<Args extends readonly unknown[]>(args: Args, leftOut: number): Args {
  const [first, ...rest] = args;
  return (typeof first === "object" && first !== null
    ? [{ ...first, leftOut }, ...rest]
    : [{ leftOut }, first, ...rest]) as unknown as Args;
}

/** Counts how often each thing is said in a second. */
export class Often {
  private readonly said = new Map<string, { since: number; count: number; left: number }>();

  constructor(private readonly now: () => number) {}

  /** Returns how many lines were left out before this one; undefined where this one is left out, too. */
  leftOut(key: string): number | undefined {
    const now = this.now();
    const known = this.said.get(key);
    if (known !== undefined && now - known.since < SECOND) {
      if (known.count < MOST) {
        known.count++;
        return 0;
      }
      known.left++;
      return undefined;
    }
    if (this.said.size >= REMEMBERED) this.said.clear();
    this.said.set(key, { since: now, count: 1, left: 0 });
    return known?.left ?? 0;
  }
}
